"""Addresses of the plan: its document, its run, where it starts, what improves it."""
