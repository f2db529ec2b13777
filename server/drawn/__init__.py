"""What a browser is shown of things in space, whoever shows them."""
