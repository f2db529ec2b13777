"""``python -m leannotch_core.ready``: compiles what is to be fast, so that nobody waits for it later."""

from __future__ import annotations

from shapely import Polygon, box

from .device.engaged import engaged
from .geometry.loop import polygon
from .geometry.segment import Source
from .layout.bed import Item, SheetToFill
from .layout.effort import Effort
from .layout.fill import fill
from .layout.rest import largest_rest
from .layout.search import separated, tidied
from .machining.way import shortest_way


def main() -> None:
    """Runs each compiled loop once on a small thing, in the types that it is called with."""
    wedge, plate = Polygon([(0, 0), (40, 0), (10, 30)]), box(0, 0, 30, 20)
    items = [Item("wedge", copy, wedge, (0.0, 180.0), both_faces=True) for copy in range(1, 14)]
    items += [Item("plate", copy, plate, ()) for copy in range(1, 4)]
    ground = SheetToFill(300, 200, 1.0, (0.0, 0.0, 300.0, 200.0), (Polygon([(250, 0), (300, 0), (300, 50)]),))
    fill(ground, items)
    separated([ground.of_frame(ground.frame, ())], items, Effort.of(0, 4, lambda: False), seed=1)
    tidied([ground])
    square = polygon([0, 1, 1 + 1j, 1j], [Source("square", "side")] * 4).segments
    engaged([[(0j, -1.0), (5 + 0j, -1.0)]], [3.0])
    shortest_way([square, square, square], [[0, 1]] * 3, [True] * 3)
    largest_rest(300, 200, [plate], 1.0)


if __name__ == "__main__":
    main()
