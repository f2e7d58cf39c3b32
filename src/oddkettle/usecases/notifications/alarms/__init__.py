"""Alarms: what must be known now, found, told once, and kept."""
