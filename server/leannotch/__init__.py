"""Settings, addresses and logs of the whole application."""
