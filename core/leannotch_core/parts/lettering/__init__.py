"""Text as lines: single strokes to be scored, and outlines of the shipped fonts."""
