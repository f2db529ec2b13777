"""The flat pattern of a part with many bends, and the part folded."""

from __future__ import annotations

from leannotch_core.bends.allowance import Allowance
from leannotch_core.bends.flanges import FlangeSize, flanged
from leannotch_core.bends.folded import fold
from leannotch_core.geometry.loop import Outline, polygon
from leannotch_core.geometry.segment import Source

from bench.figure import Figure, median_ms

_BENDS, _T = 12, 2.0


def bending() -> list[Figure]:
    chain = [_flange(number) for number in range(_BENDS)]
    source = Source("strip", "side")
    strip = [Outline(polygon([0j, 100, 100 + 60j, 60j], [source] * 4))]

    def both() -> None:
        made = flanged(strip, 100, 60, chain)
        fold(made.region, made.bends, 100 + 60j, _T)

    return [Figure("fold and flat pattern of 12 bends, ms", median_ms(both, 30), "limit 10 ms", 10)]


def _flange(number: int) -> FlangeSize:
    return FlangeSize(
        id=f"f{number}",
        name=f"flange {number}",
        of=f"f{number - 1}" if number else "",
        side="top",
        bend=Allowance((30, 60, 20, 90, 45)[number % 5], 2, 0.4, _T),
        up=bool(number % 2),
        leg=20,
        measured="outside",
        start=0,
        end=0,
        relief="square",
        relief_width=2,
        mitre=True,
        gap=0.2,
    )
