"""Judgements about conductors, their protection and outlets."""
