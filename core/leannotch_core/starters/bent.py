"""Starters of sheet metal that is bent: a bracket, a rest of one strip, an open box with flanges."""

from __future__ import annotations

import math

from ..document.bend import Bend, Flange
from ..document.sizes import Angle, Size, in_digits
from ..parts.cut_out import CutOut
from ..parts.repeats.grid import Grid
from ..parts.shapes.rectangle import SIDES, CornerCut, Rectangle
from ..parts.shapes.round_hole import RoundHole
from .made import CannotMake, Making, Number, StarterKind

BRACKET = StarterKind(
    key="bent_bracket",
    material="aluminium",
    title="Bent bracket",
    says="A back and an arm of one piece of sheet metal, with holes for screws and rounded corners.",
    numbers=(
        Number("width", "Width", "60"),
        Number("height", "Height of the back", "80"),
        Number("arm", "The arm reaches out", "90"),
        Number("angle", "The arm is turned by, degrees", "90", holds="plain", turns=("arm",)),
        Number("screw", "Screw holes", "5.5"),
        Number("corner", "Corners", "8"),
    ),
)


def make_bracket(making: Making) -> None:
    """A bracket of one bent strip. Raises `CannotMake`."""
    width, height, arm = (making.name(name, making.text(name)) for name in ("width", "height", "arm"))
    corner, screw = making.text("corner"), making.text("screw")
    angle = making.degrees("angle", 5, 150)
    if 2 * making.mm("corner") > making.mm("width"):
        raise CannotMake(f"Corners of {making.mm('corner'):g} mm do not fit on a width of {making.mm('width'):g} mm.")
    rounded = [CornerCut(corner=at, kind="round", size=Size(text=corner)) for at in ("bottom left", "bottom right")]
    shape = Rectangle(width=Size(text=width), height=Size(text=height), corners=rounded)
    reach = Flange(id="arm", name="arm", side="top", length=Size(text=arm), angle=Angle(text=in_digits(angle)))
    screws = _screws(width, height, screw)
    making.part("bracket", "Bent bracket", (width, height), shape=shape, cutouts=screws, bends=[reach])


def _screws(width: str, height: str, screw: str) -> list[CutOut]:
    """Two screws one above the other in the middle of the back."""
    hole, step = RoundHole(diameter=Size(text=screw)), Size(text=f"{height}/2")
    return [
        CutOut(
            id="screws",
            hole=hole,
            x=Size(text=f"{width}/2"),
            y=Size(text=f"{height}/6"),
            repeat=Grid(columns=1, rows=2, step_x=step, step_y=step),
        )
    ]


REST = StarterKind(
    key="bent_rest",
    material="aluminium",
    title="Rest of one strip",
    says="A strip with three bends: a foot, a post that leans as you say, and a shelf that is level with the foot.",
    numbers=(
        Number("width", "Width of the strip", "40"),
        Number("foot", "Foot", "60"),
        Number("post", "Post", "110"),
        Number("shelf", "Shelf", "50"),
        Number("lip", "Lip of the shelf", "18"),
        Number("lean", "The post is turned up by, degrees", "75", holds="plain", turns=("post", "shelf")),
        Number("screw", "Screw holes in the foot", "5.5"),
    ),
)


def make_rest(making: Making) -> None:
    """The shelf is bent back by what the post is turned, so that it is level whatever the post leans."""
    width, foot, post, shelf, lip = (
        making.name(name, making.text(name)) for name in ("width", "foot", "post", "shelf", "lip")
    )
    lean = Angle(text=in_digits(making.degrees("lean", 30, 120)))
    for name in ("foot", "post", "shelf", "lip"):
        making.mm(name)
    bends: list[Bend] = [
        Flange(id="post", name="post", side="top", length=Size(text=post), angle=lean),
        Flange(id="shelf", name="shelf", of="post", length=Size(text=shelf), angle=lean, way="down"),
        Flange(id="lip", name="lip", of="shelf", length=Size(text=lip), angle=Angle(text="90")),
    ]
    hole = CutOut(
        id="screws",
        hole=RoundHole(diameter=Size(text=making.text("screw"))),
        x=Size(text=f"{width}/4"),
        y=Size(text=f"{foot}/3"),
        repeat=Grid(columns=2, rows=1, step_x=Size(text=f"{width}/2"), step_y=Size(text="10")),
    )
    making.part("strip", "Tide-gauge rest", (width, foot), cutouts=[hole], bends=bends)


#: The bends of a box, by their ids.
BOX_SIDES = tuple(f"{side}_side" for side in SIDES)

BOX = StarterKind(
    key="bent_box",
    material="aluminium",
    title="Open box with flanges",
    says="A tray of one sheet: four sides bent up, open at the corners by a gap.",
    numbers=(
        Number("length", "Length", "120"),
        Number("width", "Width", "80"),
        Number("height", "Height", "30"),
        Number("gap", "Gap at the corners", "0.3"),
        Number("lean", "Sides are turned up by, degrees", "90", holds="plain", turns=BOX_SIDES),
    ),
)


def make_box(making: Making) -> None:
    """A box of one sheet, its sides bent up. Raises `CannotMake`."""
    length, width, height = (making.name(name, making.text(name)) for name in ("length", "width", "height"))
    lean, gap = making.degrees("lean", 20, 120), making.text("gap")
    inwards = -math.cos(math.radians(lean)) * making.mm("height")
    if 2 * inwards >= min(making.mm("length"), making.mm("width")):
        raise CannotMake("Sides that lean inwards so far meet over the bottom; turn them less, or make them lower.")
    bends: list[Bend] = [
        Flange.model_validate(
            {
                "id": f"{side}_side",
                "name": f"{side} side",
                "side": side,
                "length": height,
                "angle": f"{lean:g}",
                "relief": "round",
                "gap": gap,
            }
        )
        for side in SIDES
    ]
    making.part("box", "Open box", (length, width), bends=bends)
