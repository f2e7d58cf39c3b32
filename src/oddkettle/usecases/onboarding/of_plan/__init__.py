"""The sentence of a plan, and a plan changed by it."""
