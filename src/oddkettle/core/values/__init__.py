"""Records of values: kept, copied, and no longer waited for."""
