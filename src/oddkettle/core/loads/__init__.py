"""What draws power, when, and how much of it."""
