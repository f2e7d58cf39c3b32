"""A world of its own, to hold the tracker against: nothing here comes from the core's physics."""
