"""Parts put together: where each sits in space, what clashes, and in which order they go together."""
