"""What a router's cutter does: every way that it goes, with its depth."""
