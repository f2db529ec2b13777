"""DXF: the flat curves of its model space."""

from .reader import read_dxf

__all__ = ["read_dxf"]
