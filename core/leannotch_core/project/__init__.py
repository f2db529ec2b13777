"""The project as a whole: what the maker said, its variants, and what differs between two states of it."""
