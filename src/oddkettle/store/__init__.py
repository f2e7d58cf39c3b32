"""SQLite through peewee: plans with every saved revision, and the log."""
