"""What one process shares: its clock, its events, the failures of what runs by itself."""
