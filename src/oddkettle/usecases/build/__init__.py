"""Building a box: the report, prints, prices and ticks."""
