"""Parts put in space."""

from __future__ import annotations

from leannotch_core.assembly.poses import assemble
from leannotch_core.assembly.solids import all_clashes
from leannotch_core.document.sizes import Size
from leannotch_core.document.starter import Starter
from leannotch_core.evaluate import evaluate
from leannotch_core.project.project import Project
from leannotch_core.remembered import forget_all
from leannotch_core.starters.live import put_starter

from bench.documents import grid
from bench.figure import Figure, many, median_ms


def divider_grid() -> list[Figure]:
    """A grid of 30 x 20 dividers as 600 joints of their own, and as one joint with all its copies put in space."""

    document = grid(2, 0).model_dump()
    board = document["parts"][0]
    size = {"kind": "rectangle", "height": "40", "corners": []}
    across = [{**board, "id": f"a{i}", "shape": {**size, "width": "640"}} for i in range(many(20))]
    along = [{**board, "id": f"b{i}", "shape": {**size, "width": "440"}} for i in range(many(30))]
    laps = [
        {
            "kind": "cross-lap",
            "id": f"lap_{i}_{j}",
            "a": {"part": f"a{i}", "side": "top", "at": str(20 + 20 * j)},
            "b": {"part": f"b{j}", "side": "bottom", "at": str(20 + 20 * i)},
        }
        for i in range(many(20))
        for j in range(many(30))
    ]
    apart = Project.model_validate({**document, "parts": across + along, "joints": laps})

    def work() -> None:
        forget_all()
        evaluate(apart)

    per_joint = median_ms(work, 3) / len(laps)
    ends = {
        "a": {"part": "a", "side": "top", "at": "20", "slots": many(30), "step": "20"},
        "b": {"part": "b", "side": "bottom", "at": "20", "slots": many(20), "step": "20"},
    }
    pair = [{**across[0], "id": "a", "count": many(20)}, {**along[0], "id": "b", "count": many(30)}]
    one = Project.model_validate({**document, "parts": pair, "joints": [{"kind": "cross-lap", "id": "grid", **ends}]})
    result = evaluate(one)
    standing = median_ms(lambda: assemble(one, result), 3)
    return [
        Figure("a grid of 30 x 20 dividers, ms per joint", per_joint, "1 ms, for comparison", 1),
        Figure("the same grid in one joint put in space, ms", standing, "50 ms, for comparison", 50),
    ]


def largest_tray() -> list[Figure]:
    """A tray of 12 x 8 compartments: where all its parts sit, and what of them clashes."""

    sizes = {"length": "640", "width": "420", "columns": str(many(12)), "rows": str(many(8))}
    typed = {name: Size(text=text) for name, text in sizes.items()}
    tray = Starter(id="tray_1", kind="tray", stock="birch", second_stock="birch", sizes=typed)
    document = put_starter(grid(2, 0).model_copy(update={"parts": [], "joints": []}), tray)
    result = evaluate(document)
    assembly = assemble(document, result)
    standing = median_ms(lambda: assemble(document, result), 7)
    clashing = median_ms(lambda: all_clashes(result, assembly), 3)
    return [
        Figure("poses and closure of a tray of 12 x 8 compartments, ms", standing, "at most 50 ms", 50),
        Figure("clashes of that tray, in the background, over its poses, times", clashing / standing, "none", 1),
    ]
