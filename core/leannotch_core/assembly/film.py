"""What two solids share where they touch: a film, or more than that."""

from __future__ import annotations

import manifold3d

#: Two solids that share a film no thicker than this (mm) only touch.
TOUCH = 0.002


def film_thickness(film: manifold3d.Manifold) -> float:
    """Twice the volume over the surface (mm): of a thin film, its thickness; 0 of nothing."""
    return 0.0 if film.is_empty() else float(2 * film.volume() / max(film.surface_area(), 1e-12))
