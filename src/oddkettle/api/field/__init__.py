"""Addresses of the field: log, samples, tracked level, alarms, broker."""
