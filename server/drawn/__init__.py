"""Parts ready to draw, flat and folded, whoever shows them."""
