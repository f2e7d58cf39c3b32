"""The charge sources of a document, one file a kind: its model, and its way into the core."""
