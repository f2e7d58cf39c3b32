"""A day made for its user: when flexible loads run, how the panel lies, when to drive."""
