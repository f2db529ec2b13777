"""A file a kind of shape: what is typed of it, and its outline."""
