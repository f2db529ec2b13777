"""Booleans, offsets and arcs of curves."""

from __future__ import annotations

import math
from collections.abc import Callable

import shapely
from leannotch_core.geometry.biarc import TOLERANCE, Curve, arcs_along, bezier, ellipse, follows, pair_of_arcs
from leannotch_core.geometry.boolean import intersect, subtract, union
from leannotch_core.geometry.chords import as_polygon
from leannotch_core.geometry.loop import Outline
from leannotch_core.geometry.offset import grow
from leannotch_core.geometry.segment import Motion, Source
from leannotch_core.parts.shapes.obround import obround
from leannotch_core.parts.shapes.round_hole import round_hole

from bench.figure import Figure, many, median_ms


def kernel() -> list[Figure]:
    """Booleans and offset over raw shapely, on the same shapes in chords of 0.005 mm."""

    plate = [Outline(obround("plate", 300, 200))]
    holes = [
        Outline(round_hole(f"hole{i}", 24).moved(Motion(shift=complex(30 * (i % 10) - 135, 40 * (i // 10) - 100))))
        for i in range(many(60))
    ]
    chords = as_polygon(plate[0], 0.005)
    cut_by = shapely.union_all([as_polygon(hole, 0.005) for hole in holes])
    cut = subtract(plate, holes)
    shape = shapely.union_all([as_polygon(outline, 0.005) for outline in cut])
    pairs: list[tuple[str, Callable[[], object], Callable[[], object]]] = [
        ("union", lambda: union(plate, holes), lambda: chords.union(cut_by)),
        ("subtraction", lambda: subtract(plate, holes), lambda: chords.difference(cut_by)),
        ("intersection", lambda: intersect(plate, holes), lambda: chords.intersection(cut_by)),
        ("offset", lambda: grow(cut, 0.08), lambda: shape.buffer(0.08, join_style="mitre")),
    ]
    return [
        Figure(
            f"{name} of a plate with 60 holes over shapely, times", median_ms(ours) / median_ms(raw), "aim 5 times", 5
        )
        for name, ours, raw in pairs
    ]


def arcs_of_curves() -> list[Figure]:
    """Arcs that curves become, beside those of splitting them into equal steps until all keep the tolerance."""

    source = Source("bench", "curve")

    def in_equal_steps(curve: Curve, end: float) -> int:
        steps = 1
        while True:
            spans = [(end * i / steps, end * (i + 1) / steps) for i in range(steps)]
            pairs = [pair_of_arcs(curve, *span, source) for span in spans]
            if all(follows(pair, curve, *span, TOLERANCE) for pair, span in zip(pairs, spans, strict=True)):
                return sum(map(len, pairs))
            steps += 1

    curves = {
        "a quarter of an ellipse of 120 x 80": (ellipse(0, 60, 40j), math.pi / 2),
        "a bend of a Bezier curve": (bezier(0, 60 + 5j, 70 + 40j, 90 + 90j), 1.0),
        "a Bezier curve with an inflection": (bezier(0, 80 + 60j, -20 + 40j, 90 + 90j), 1.0),
    }
    return [
        Figure(
            f"arcs of {name}",
            len(arcs_along(curve, 0, end, source)),
            f"{in_equal_steps(curve, end)} in equal steps",
            in_equal_steps(curve, end),
        )
        for name, (curve, end) in curves.items()
    ]
