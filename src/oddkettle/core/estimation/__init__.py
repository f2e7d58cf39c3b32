"""Where the battery stands: readings weighed by a particle filter, and the rest of the trip."""
