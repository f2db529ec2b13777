"""Joints that would hold brought parts: where tabs and slots of their outlines mate, or where plates meet in space."""
