"""Edits of the shapes on a part: one or many of them moved, turned, copied, arranged, grouped, joined."""
