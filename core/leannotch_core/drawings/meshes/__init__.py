"""Meshes of others: bodies laid flat where they are plates, or cut at a height."""
