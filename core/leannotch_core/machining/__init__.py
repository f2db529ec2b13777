"""What the machine follows on a sheet: which lines, and in which order."""
