"""Bytes to and from plan and core types."""
