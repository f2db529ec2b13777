"""Ways to spoil files: drawings by their entities, programs by their lines."""
