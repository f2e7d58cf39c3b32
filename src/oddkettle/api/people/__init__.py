"""Addresses of those who are let in."""
