"""Odd Kettle plans and tracks a portable battery box."""

__version__ = "0.2.0"
