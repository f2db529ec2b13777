"""Faults that are put into the code one at a time, to see whether a test notices."""
