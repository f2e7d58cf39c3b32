"""What keeps the program going: work by itself, copies, health, the demo."""
