"""The application as it is served: what it listens to, and what it begins with."""
