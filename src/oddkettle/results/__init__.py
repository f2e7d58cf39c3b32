"""Result documents: what several use cases answer with, ready for JSON. No arithmetic."""
