"""A machine, simulated: it knows nothing of projects, only the file that is sent to it and its own profile."""
