"""The bench booklet: everything about building a box, on paper."""
