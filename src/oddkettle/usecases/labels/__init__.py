"""Labels: typed, pasted or photographed, and taken over into a part."""
