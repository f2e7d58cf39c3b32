"""Circuits: currents, cables, protection, connectors, outlets."""
