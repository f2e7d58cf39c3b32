"""A short trainer: situations to act in, each a small live plan."""
