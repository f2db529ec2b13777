"""The simulated machine, as an outside device would stand beside: it knows only what is sent to it."""
