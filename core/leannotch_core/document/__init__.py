"""What the maker said, noun by noun: typed, with bounds, and nothing that follows from it."""
