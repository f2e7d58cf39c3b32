"""How to build the box: wiring, enclosure, parts, procedures."""
