"""What is noted in the field."""
