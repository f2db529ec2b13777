"""The way out: files for the machine."""
