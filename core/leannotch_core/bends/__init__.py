"""Bends: how long a bent part is flat, and how it stands folded."""
