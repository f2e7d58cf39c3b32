"""Samples of a battery monitor: taken in, live, fetched."""
