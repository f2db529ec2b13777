"""What a browser is told, a file for each station: typed once, here, and carried into the page."""
