"""The workshop: projects as they are stored, edited and shown, with long work and files that were brought."""
