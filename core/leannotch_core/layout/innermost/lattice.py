"""How close equal shapes lie in rows: each beside the last, and row upon row."""

from __future__ import annotations

from ...compiled import light
from .contact import Lying, Numbers, Shapes, lay, meet

#: Places looked at on the way in, before the last one is halved down to its contact.
_LOOKS, _HALVINGS = 16, 22


@light
def contact(shapes: Shapes, bed: Lying, x: float, y: float, turn: float, along: bool, far: float) -> float:
    """How near thing 1 comes to thing 0 that lies, from ``far`` in mm on, by moving across or ``along``; at least 0."""
    ex, ey = (1.0, 0.0) if along else (0.0, 1.0)
    clear, step = far, far / _LOOKS
    while clear > 0.0:
        t = max(0.0, clear - step)
        lay(shapes, bed, 1, x + ex * t, y + ey * t, turn)
        if meet(shapes, bed, 0, 1):
            break
        clear = t
    if clear <= 0.0:
        return 0.0
    blocked = clear - step
    for _ in range(_HALVINGS):
        t = 0.5 * (blocked + clear)
        lay(shapes, bed, 1, x + ex * t, y + ey * t, turn)
        if meet(shapes, bed, 0, 1):
            blocked = t
        else:
            clear = t
    return clear


@light
def pitch(shapes: Shapes, bed: Lying, turn: float, lift: float, far: float) -> tuple[float, float]:
    """Steps along a row: from one to its neighbour turned about and lifted by ``lift`` mm, and from pair to pair."""
    lay(shapes, bed, 0, 0.0, 0.0, turn)
    same = contact(shapes, bed, 0.0, 0.0, turn, True, far)
    beside = contact(shapes, bed, 0.0, lift, turn + 180.0, True, far)
    lay(shapes, bed, 0, 0.0, 0.0, turn + 180.0)
    back = contact(shapes, bed, 0.0, -lift, turn, True, far)
    return beside, max(same, beside + back)


@light
def rise(shapes: Shapes, bed: Lying, unit: Numbers, step: float, aside: float, far: float) -> float:
    """How far above a row of ``unit`` (rows of x, y, turn), repeated by ``step`` mm, the next lies ``aside``."""
    most = 0.0
    for a in range(len(unit)):
        lay(shapes, bed, 0, 0.0, 0.0, unit[a, 2])
        for b in range(len(unit)):
            for k in range(-2, 3):
                x, y = unit[b, 0] - unit[a, 0] + aside + k * step, unit[b, 1] - unit[a, 1]
                most = max(most, contact(shapes, bed, x, y, unit[b, 2], False, far))
    return most
