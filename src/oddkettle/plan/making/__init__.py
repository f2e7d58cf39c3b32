"""How the box is made, as the plan says it."""
