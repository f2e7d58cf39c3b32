"""Typed words into a sentence: a small grammar of our own, which says what it understood."""
