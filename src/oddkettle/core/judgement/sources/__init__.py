"""Judgements about what charges the box."""
