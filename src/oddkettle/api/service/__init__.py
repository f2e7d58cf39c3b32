"""Addresses of the program itself: copies and health."""
