"""Days, places and blocks of a trip, and the grid that they are laid on."""
