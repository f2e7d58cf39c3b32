"""Plans, what they are begun from, and what they are chosen from."""
