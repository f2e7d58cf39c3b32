"""Results that are kept, and work that nobody waits for any more."""
