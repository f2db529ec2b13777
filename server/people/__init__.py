"""People: who may come in by a name, and who asks."""
