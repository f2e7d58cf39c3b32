"""What to change: candidate changes weighed, goals sought, sizes searched."""
