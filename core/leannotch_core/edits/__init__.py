"""One change of the document each, by noun."""
