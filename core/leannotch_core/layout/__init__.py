"""The layout: where each copy lies on the sheets of its stock, found, checked and told."""
