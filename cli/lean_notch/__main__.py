"""``python -m lean_notch``."""

from .command import main

main()
