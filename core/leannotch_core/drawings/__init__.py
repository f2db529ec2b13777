"""The way in: drawings of others, counted, read with bounds, their loose lines joined."""
