"""A plan run and judged, and the documents of it."""
