"""One file for each command; its options and what it says."""
