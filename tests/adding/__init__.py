"""What is added in a copy of the house, as the pages of docs/adding say it is."""
