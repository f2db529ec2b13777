"""A box whose lid is lifted off: a shallow box of its own, just wide enough to go over the other."""

from __future__ import annotations

from .made import CannotMake, Choice, Kind, Making, Number
from .walls import bottom, walls

KIND = Kind(
    key="box",
    title="Box with a lid",
    says="A closed box; its lid is lifted off and reaches down over the walls.",
    numbers=(
        Number("length", "Length", "180"),
        Number("width", "Width", "120"),
        Number("height", "Height without the lid", "70"),
        Number("lip", "The lid reaches down by", "25"),
        Number("play", "Play between lid and box, on each side", "0.4"),
    ),
    choices=(Choice("measured", "Length, width and height are", ("outside", "inside")),),
    second_stock="Lid of",
)


def make(making: Making) -> None:
    t, u = making.t, making.u
    inside = making.choice("measured") == "inside"
    around, below = (f" + 2*{t}", f" + {t}") if inside else ("", "")
    length, width = (making.name(name, f"{making.text(name)}{around}") for name in ("length", "width"))
    height = making.name("height", f"{making.text('height')}{below}")
    if making.mm("lip") > making.value(height, "Height"):
        raise CannotMake("The lid reaches down by more than the box is high.")
    walls(making, length, width, height)
    bottom(making, "floor", "Floor", (length, width))
    play = making.text("play")
    over, across = (
        making.name(f"lid_{name}", f"{size} + 2*{u} + 2*{play}") for name, size in (("l", length), ("w", width))
    )
    rise = making.name("lid_height", f"{making.text('lip')} + {u}")
    lid = making.of_second()
    walls(lid, over, across, rise, of="lid")
    bottom(lid, "top", "Lid", (over, across), of="lid")
