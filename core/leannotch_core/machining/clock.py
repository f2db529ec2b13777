"""The clock: how long a machine takes for its moves, with what it needs to get up to speed and round corners.

A move of length L at speed v with acceleration a takes v/a + L/v from rest to rest, or 2*sqrt(L/a) where it never
gets up to speed. Between moves it slows down as far as the corner needs: so much that it leaves the point of the
corner by no more than a small distance d, on an arc that touches both sides, at the speed sqrt(a*r) of its radius r.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from ..compiled import light
from ..geometry.segment import Arc, Segment

Numbers = npt.NDArray[np.float64]


def seconds(
    segments: Sequence[Segment], speeds: Numbers, accelerations: Numbers, corner: float, rises: Numbers | None = None
) -> Numbers:
    """How long (s) each of the moves takes, done one after the other from rest to rest.

    ``speeds`` (mm/s) and ``accelerations`` (mm/s²) are those of each move; ``corner`` (mm) is how far the machine may
    leave the point of a corner. ``rises`` (mm) is how far each move goes up, for a machine that does.
    """
    if not segments:
        return np.zeros(0)
    flat = np.array([segment.length for segment in segments])
    up = np.zeros(len(segments)) if rises is None else rises
    lengths = np.hypot(flat, up)
    radius = np.array([segment.radius if isinstance(segment, Arc) else np.inf for segment in segments])
    # Round an arc it is the acceleration that holds the machine on its circle.
    fastest = np.minimum(speeds, np.sqrt(accelerations * radius))
    begins, ends = _directions(segments, flat, up, lengths)
    turns = (begins[1:] * ends[:-1]).sum(axis=1)
    through = np.zeros(len(segments) + 1)
    through[1:-1] = np.minimum(
        _round_corner(turns, np.minimum(accelerations[:-1], accelerations[1:]), corner),
        np.minimum(fastest[:-1], fastest[1:]),
    )
    took = np.zeros(len(segments))
    timed(lengths, fastest, accelerations, through, took)
    return took


def _directions(segments: Sequence[Segment], flat: Numbers, up: Numbers, lengths: Numbers) -> tuple[Numbers, Numbers]:
    """Unit vectors in which each move begins and ends; one that goes straight up or down has no way of its own."""
    whole = np.maximum(lengths, 1e-12)
    share, rise = flat / whole, up / whole
    moving = flat > 0
    begins = np.array([s.start_tangent if on else 0j for s, on in zip(segments, moving, strict=True)])
    ends = np.array([s.end_tangent if on else 0j for s, on in zip(segments, moving, strict=True)])
    return (
        np.column_stack([begins.real * share, begins.imag * share, rise]),
        np.column_stack([ends.real * share, ends.imag * share, rise]),
    )


def _round_corner(turns: Numbers, accelerations: Numbers, corner: float) -> Numbers:
    """The speed (mm/s) through corners by the cosines of their turns: an arc of radius r leaves their point by

    ``r * (1 / sin(h) - 1)``, where h is half the angle between the sides.
    """
    half = np.sqrt(np.clip((1 + turns) / 2, 0, 1))
    with np.errstate(divide="ignore"):
        radius = corner * half / np.maximum(1 - half, 1e-12)
    return np.where(half > 1 - 1e-9, np.inf, np.sqrt(accelerations * radius))


@light
def timed(lengths: Numbers, fastest: Numbers, accelerations: Numbers, through: Numbers, took: Numbers) -> None:
    """Lowers the speeds ``through`` the ends of moves until each can be reached from its neighbours, and times them."""
    for at in range(len(lengths) - 1, -1, -1):
        reached = np.sqrt(through[at + 1] ** 2 + 2 * accelerations[at] * lengths[at])
        through[at] = min(through[at], reached)
    for at in range(len(lengths)):
        a, length, v = accelerations[at], lengths[at], fastest[at]
        u = through[at]
        w = min(through[at + 1], np.sqrt(u * u + 2 * a * length))
        through[at + 1] = w
        top = np.sqrt((2 * a * length + u * u + w * w) / 2)
        if top <= v:
            took[at] = (2 * top - u - w) / a
        else:
            took[at] = (2 * v - u - w) / a + (length - (2 * v * v - u * u - w * w) / (2 * a)) / v
