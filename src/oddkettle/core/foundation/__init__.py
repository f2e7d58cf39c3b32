"""What every room of the core stands on: units, errors, quantities in sentences, what is kept."""
