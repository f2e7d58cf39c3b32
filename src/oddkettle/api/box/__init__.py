"""Addresses of the box: its life, its battery, the shelf, how it is built."""
