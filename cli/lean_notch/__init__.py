"""Lean Notch's command line: the top of the house, which nothing else knows."""
