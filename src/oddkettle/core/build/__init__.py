"""From the plan to a box one can build: circuits, parts, fit, faces, checks and faults."""
