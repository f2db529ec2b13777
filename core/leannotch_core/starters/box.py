"""A box with a lid: lifted off, a shallow box that goes over the other; or sliding in grooves of two walls."""

from __future__ import annotations

from ..document import CutOut, Obround, RectangularHole
from ..sizes import Size
from .made import CannotMake, Choice, Kind, Making, Number
from .walls import bottom, walls

KIND = Kind(
    key="box",
    title="Box with a lid",
    says="A closed box; its lid is lifted off, or slides in grooves that a router sinks into two walls.",
    numbers=(
        Number("length", "Length", "180"),
        Number("width", "Width", "120"),
        Number("height", "Height without the lid", "70"),
        Number("lip", "A lid that is lifted off reaches down by", "25"),
        Number("play", "Play of the lid, on each side", "0.4"),
    ),
    choices=(
        Choice("measured", "Length, width and height are", ("outside", "inside")),
        Choice("lid", "The lid", ("is lifted off", "slides")),
    ),
    second_stock="Lid of",
)


def make(making: Making) -> None:
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


def _sliding(making: Making, length: str, width: str, height: str) -> None:
    """The lid runs in grooves half as deep as the side walls are thick, over the lower front wall.

    All walls are drawn from inside: the machine sinks the grooves into the face that is drawn.
    """
    t, u, play = making.t, making.u, making.text("play")
    rim = making.name("front_height", f"{height} - {u} - 2*{play} - 1.5*{t}")
    if making.value(rim, "Height") < 3 * making.value(t, "Stock"):
        raise CannotMake("The box is too low for a lid that slides in its walls.")
    groove = making.name("groove", f"{u} + 2*{play}")
    run = making.name("groove_length", f"{width} - {t}")
    left, right = (
        making.part(
            side,
            f"{side.capitalize()} wall",
            (width, height),
            face="inside",
            cutouts=[_groove(origin, run, groove, f"1.5*{t} + {groove}/2", f"{t}/2")],
        )
        for side, origin in (("left", "top left"), ("right", "top right"))
    )
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
    making.part("lid", "Lid", (f"{length} - {t} - 2*{play}", f"{width} - {t} - {play}"), second=True, cutouts=[thumb])


def _groove(origin: str, length: str, height: str, down: str, depth: str) -> CutOut:
    """A groove from the front end of a wall, ``down`` from its top to the groove's middle."""
    return CutOut.model_validate(
        {
            "id": "groove",
            "hole": RectangularHole(width=Size(text=length), height=Size(text=height)),
            "origin": origin,
            "x": Size(text=f"{length}/2"),
            "y": Size(text=down),
            "does": "pocket",
            "depth": Size(text=depth),
        }
    )
