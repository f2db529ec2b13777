"""Layouts."""

from __future__ import annotations

from typing import Any

from leannotch_core.evaluate import evaluate
from leannotch_core.layout.fill import Item
from leannotch_core.layout.nest import nest
from leannotch_core.layout.sheets import placed, polygon_of, turns_allowed
from leannotch_core.layout.strip import pack

from bench.figure import Figure


def nesting(document: Any) -> list[Figure]:
    """Used share of the birch up to the rightmost part; its bound is 1, beside the solver's own strip."""

    birch = document.model_copy(
        update={
            "stocks": document.stocks[:1],
            "parts": [p for p in document.parts if p.stock == "birch"],
            "joints": [j for j in document.joints if j.kind == "finger"],
        }
    )
    result = evaluate(birch)
    area = sum(part.outline.area * part.part.count for part in result.parts.values())

    def share(seconds: float) -> float:
        *_, last = nest(birch, result, seconds)
        reach = max(placed(result.parts[p.part].outline, p).bounds[2] for p in last.layout.placements)
        return float(area / ((300 - 10) * (reach - 5)))

    items = [
        Item(p.part.id, copy, polygon_of(p.outline), tuple(turns_allowed(p.part, "along width")))
        for p in result.parts.values()
        for copy in range(p.part.count)
    ]
    solver = area / (290 * min(length for length, _ in pack(items, 290, 2, 10, lambda: False)))
    against = f"area bound 1; solver alone {solver:.3f}"
    return [Figure(f"nesting the demo, used share after {s} s", share(s), against, solver) for s in (2, 10)]
