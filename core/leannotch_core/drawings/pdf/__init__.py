"""PDF read: the strokes of a page, by their layers."""

from .reader import read_pdf

__all__ = ["read_pdf"]
