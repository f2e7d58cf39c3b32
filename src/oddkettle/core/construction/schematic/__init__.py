"""The wiring drawing: batteries and sources, uses, and the bars stud by stud."""
