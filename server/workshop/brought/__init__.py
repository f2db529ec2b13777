"""Drawings that others made: kept with the project, read apart, shown by a maker's choices, and taken."""
