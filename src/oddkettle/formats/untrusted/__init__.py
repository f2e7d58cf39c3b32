"""Files of others, read within bounds."""
