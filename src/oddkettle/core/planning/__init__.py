"""Searches over what a box could be."""
