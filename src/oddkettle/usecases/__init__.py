"""What the program does for its users: one room a task."""
