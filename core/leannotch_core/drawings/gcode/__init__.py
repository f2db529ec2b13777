"""G-code read, as NIST wrote it down (NISTIR 6556): what a machine that works in a plane needs of it."""

from .reader import read_gcode

__all__ = ["read_gcode"]
