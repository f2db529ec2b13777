"""A box with a lid: lifted off, a shallow box that goes over the other; or sliding in grooves of two walls."""

from __future__ import annotations

from ..document.sizes import Size
from ..joints.ends import FaceLine
from ..parts.cut_out import CutOut
from ..parts.shapes.obround import Obround
from .made import CannotMake, Choice, Making, Number, StarterKind
from .walls import bottom, walls

KIND = StarterKind(
    key="box",
    title="Box with a lid",
    says="A closed box; its lid is lifted off, or slides in grooves that a router sinks into two walls.",
    numbers=(
        Number("length", "Length", "180"),
        Number("width", "Width", "120"),
        Number("height", "Height without the lid", "70"),
        Number("lip", "A lid that is lifted off reaches down by", "0.35", follows="height"),
        Number("play", "Play of the lid, on each side", "0.4"),
    ),
    choices=(
        Choice("measured", "Length, width and height are", ("outside", "inside")),
        Choice("lid", "The lid", ("is lifted off", "slides")),
    ),
    second_stock="Lid of",
)


def make(making: Making) -> None:
    """A closed box with fingers at its corners, whose lid is lifted off or slides. Raises `CannotMake`."""
    t = making.t
    inside = making.choice("measured") == "inside"
    around, below = (f" + 2*{t}", f" + {t}") if inside else ("", "")
    length, width = (making.name(name, f"{making.text(name)}{around}") for name in ("length", "width"))
    height = making.name("height", f"{making.text('height')}{below}")
    if making.choice("lid") == "slides":
        _sliding(making, length, width, height)
    else:
        _lifted(making, length, width, height)


def _lifted(making: Making, length: str, width: str, height: str) -> None:
    if making.mm("lip") > making.value(height, "Height"):
        raise CannotMake("The lid reaches down by more than the box is high.")
    walls(making, length, width, height)
    bottom(making, "floor", "Floor", (length, width))
    u, play = making.u, making.text("play")
    over = making.name("lid_length", f"{length} + 2*{u} + 2*{play}")
    across = making.name("lid_width", f"{width} + 2*{u} + 2*{play}")
    rise = making.name("lid_height", f"{making.text('lip')} + {u}")
    lid = making.of_second()
    walls(lid, over, across, rise, of="lid")
    bottom(lid, "top", "Lid", (over, across), of="lid")
    # Seen from inside, the lid's plate is the other way round: the front wall runs from right to left on it.
    rim = f"{u} + {play}"
    line = FaceLine(
        part=f"{making.starter.id}_top",
        x=Size(text=f"width - ({rim})"),
        y=Size(text=f"{rim} + {making.t}/2"),
        turn=Size(text="180"),
    )
    making.stand((f"{making.starter.id}_front", "top"), line)


def _sliding(making: Making, length: str, width: str, height: str) -> None:
    """The lid runs in grooves half as deep as the side walls are thick, over the lower front wall.

    All walls are drawn from inside: the machine sinks the grooves into the face that is drawn.
    """
    t, u, play = making.t, making.u, making.text("play")
    rim = making.name("front_height", f"{height} - {u} - {play} - 1.5*{t}")
    if making.value(rim, "Height") < 3 * making.value(t, "Stock"):
        raise CannotMake("The box is too low for a lid that slides in its walls.")
    left = making.part("left", "Left wall", (width, height), face="inside")
    right = making.part("right", "Right wall", (width, height), face="inside")
    front = making.part("front", "Front wall", (length, rim), face="inside")
    back = making.part("back", "Back wall", (length, height), face="inside")
    finger = f"{max(making.value(height, 'Height') / 5, 4):.4g}"
    for a, b in (((front, "right"), (left, "left")), ((left, "right"), (back, "left"))):
        making.finger(a, b, finger)
    for a, b in (((back, "right"), (right, "left")), ((right, "right"), (front, "left"))):
        making.finger(a, b, finger)
    bottom(making, "floor", "Floor", (length, width))
    thumb = CutOut(
        id="thumb",
        hole=Obround(width=Size(text="24"), height=Size(text="10")),
        origin="bottom left",
        x=Size(text="width/2"),
        y=Size(text="14"),
    )
    size = f"{length} - {t} - 2*({play})", f"{width} - {t} - {play}"
    lid = making.part("lid", "Lid", size, second=True, cutouts=[thumb])
    level = Size(text=f"{height} - 1.5*{t} - {u}/2")
    groove = {"groove": Size(text=f"{t}/2"), "room": Size(text=play), "fit": "sliding"}
    making.stand((lid, "left"), FaceLine(part=left, x=Size(text="0"), y=level), **groove)
    making.stand((lid, "right"), FaceLine(part=right, x=Size(text="width"), y=level, turn=Size(text="180")), **groove)
