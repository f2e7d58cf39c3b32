"""A trip under way: where it stands, what it taught, plan against actual."""
