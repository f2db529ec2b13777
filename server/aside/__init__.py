"""What was deleted: set aside at once, had back for a while, then taken away."""
