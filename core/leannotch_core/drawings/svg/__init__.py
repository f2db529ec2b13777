"""SVG: what is seen of it, as lines and arcs."""

from .reader import read_svg

__all__ = ["read_svg"]
