"""Speed, as ratios and counts: no part of the served application."""
