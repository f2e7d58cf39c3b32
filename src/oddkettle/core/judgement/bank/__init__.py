"""Judgements about the battery and what measures it."""
