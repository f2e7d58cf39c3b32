"""Parts as bodies, where they go in a box, and the holes in its faces."""
