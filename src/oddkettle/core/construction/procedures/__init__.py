"""Checklists, expected readings, and finding a fault."""
