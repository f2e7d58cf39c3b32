"""Boxes that outlive their trips, and the trips of each."""
