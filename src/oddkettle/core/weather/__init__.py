"""Skies: what a day's word means in light."""
