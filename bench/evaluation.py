"""From intent to finished parts."""

from __future__ import annotations

from typing import Any

from leannotch_core.document.sizes import Size
from leannotch_core.evaluate import evaluate
from leannotch_core.remembered import forget_all

from bench.documents import grid
from bench.figure import Figure, many, median_ms


def evaluation(document: Any) -> list[Figure]:

    def from_nothing() -> None:
        forget_all()
        evaluate(document)

    lengths = iter(range(241, 1000))

    def after_an_edit() -> None:
        floor = next(part for part in document.parts if part.id == "floor")
        shape = floor.shape.model_copy(update={"width": Size(text=str(next(lengths)))})
        parts = [p.model_copy(update={"shape": shape}) if p.id == "floor" else p for p in document.parts]
        evaluate(document.model_copy(update={"parts": parts}))

    return [
        Figure("evaluate the demo from nothing, ms", median_ms(from_nothing), "at most 60 ms", 60),
        Figure("evaluate after one dimension edit, ms", median_ms(after_an_edit), "at most 20 ms", 20),
    ]


def growth() -> Figure:

    small, large = grid(many(20), many(40)), grid(many(200), many(400))

    def taken(document: Any) -> float:
        def work() -> None:
            forget_all()
            evaluate(document)

        return median_ms(work, 5)

    ratio = taken(large) / taken(small)
    return Figure("200 parts and 400 joints over 20 and 40, times", ratio, "at most 12 times", 12)
