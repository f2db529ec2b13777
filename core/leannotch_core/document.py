"""The project document: what the maker said, and nothing that follows from it.

One typed JSON document; the same shape in the database, in the API, in the browser and in a saved file.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Container, Iterable
from typing import Annotated, Any, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, ValidationError, field_validator, model_validator
from pydantic_core import from_json

from .carried import carried_forward
from .faults import first_fault
from .sizes import LARGEST, Size, Unit

#: The version of the document that this program writes; older ones are carried forward when they are read.
VERSION: Literal[2] = 2

# What a project holds at the most. These are limits of what stays quick to work with, not of what can be cut.

#: Copies of parts, all together.
MOST_COPIES = 5000
#: Lines and arcs of all parts, cut-outs, letters and joints together: what takes some eight seconds to work out anew.
MOST_LINES = 60_000
#: Lines and arcs of one brought outline.
MOST_VERTICES = 4000


def printable(value: object) -> object:
    """A text without what neither a screen nor an XML file can hold; tabs and line ends become spaces."""
    if not isinstance(value, str):
        return value
    return "".join(" " if c in "\t\n\r" else c for c in value if c in "\t\n\r" or not _unprintable(c))


def _unprintable(character: str) -> bool:
    # Control characters, halves of surrogate pairs, and code points that are no characters: XML 1.0, 2.2.
    return unicodedata.category(character) in ("Cc", "Cs") or ord(character) & 0xFFFE == 0xFFFE


#: Identifiers may stand in a size (``birch.thickness``), so they are words.
Id = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,39}$")]
#: Marks a text that is shown, scored or written into files.
PRINTABLE = BeforeValidator(printable)
Name = Annotated[str, Field(min_length=1, max_length=80), PRINTABLE]
#: A machine as its maker calls it.
MachineName = Annotated[str, Field(max_length=80), PRINTABLE]
#: The id of a starter that made a thing and keeps it, or nothing.
Owner = Annotated[str, Field(pattern=r"^([a-z][a-z0-9_]{0,15})?$")]

#: A place in mm.
Millimetres = Annotated[float, Field(ge=-LARGEST, le=LARGEST)]

Fit = Literal["loose", "sliding", "glue", "press"]
Feel = Literal["falls apart", "holds until tapped", "firm", "stiff"]
Corner = Literal["bottom left", "bottom right", "top right", "top left"]
Side = Literal["bottom", "right", "top", "left"]
#: Which face of a part its drawing shows.
Face = Literal["outside", "inside"]
SpliceShape = Literal["dovetail", "round knob", "straight"]
Align = Literal["left", "middle", "right"]
ReliefKind = Literal["none", "dog-bone", "T-bone, long side", "T-bone, short side"]
Thread = Literal["M2", "M2.5", "M3", "M4", "M5", "M6", "M8"]
Material = Literal["plywood", "solid wood", "MDF", "acrylic", "card", "aluminium", "fabric", "other"]


class Model(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)


# Stock


class TypedKerf(Model):
    """A kerf that the maker knows: full width of what the beam or cutter removes."""

    how: Literal["typed"] = "typed"
    width: Size


class StripKerf(Model):
    """A strip of known length cut into pieces; the missing length is kerf."""

    how: Literal["strip"] = "strip"
    strip: Size
    pieces: list[Size] = Field(min_length=1, max_length=50)


class PlugKerf(Model):
    """One square cut on its line: the plug is smaller and its hole larger."""

    how: Literal["plug"] = "plug"
    hole: Size
    plug: Size


Kerf = Annotated[TypedKerf | StripKerf | PlugKerf, Field(discriminator="how")]


class Sheet(Model):
    """A size in which the stock is at hand. Width lies along x."""

    width: Size
    height: Size


class Clearances(Model):
    """Finished opening less finished insert for each class of fit; negative is interference."""

    loose: Size
    sliding: Size
    glue: Size
    press: Size


class Felt(Model):
    """A pair of a test coupon: its marked clearance in mm, and how it felt."""

    clearance: float = Field(ge=-10, le=10)
    feel: Feel


class CouponResult(Model):
    """What a coupon showed of a stock on a machine: kerf and clearances in mm as they were from that day on."""

    date: Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]
    machine: MachineName = ""
    kerf: float = Field(ge=0, le=LARGEST)
    loose: Millimetres
    sliding: Millimetres
    glue: Millimetres
    press: Millimetres


class Stock(Model):
    """A sheet material as measured, with the machine that cuts it. ``history`` has the latest result last."""

    id: Id
    name: Name
    material: Material
    nominal: Size
    readings: list[Size] = Field(max_length=40)
    grain: Literal["none", "along width", "along height"] = "none"
    sheets: list[Sheet] = Field(min_length=1, max_length=12)
    smallest_web: Size
    machine: MachineName = ""
    kerf: Kerf
    clearances: Clearances
    history: list[CouponResult] = Field(default=[], max_length=10)


# Parts


class CornerCut(Model):
    """A corner of the part, rounded or chamfered by ``size``; a chamfer may take another length ``up`` the part."""

    corner: Corner
    kind: Literal["round", "chamfer"]
    size: Size
    up: Size | None = None


class Rectangle(Model):
    kind: Literal["rectangle"] = "rectangle"
    width: Size
    height: Size
    corners: list[CornerCut] = Field(default=[], max_length=4)

    @property
    def lines(self) -> int:
        return 8


class Ellipse(Model):
    kind: Literal["ellipse"] = "ellipse"
    width: Size
    height: Size

    @property
    def lines(self) -> int:
        return 12


class Knot(Model):
    """A point that a curve runs through, in shares of its width and height; smooth unless it is a ``corner``."""

    x: float = Field(ge=-10, le=10)
    y: float = Field(ge=-10, le=10)
    corner: bool = False


class KnotAt(Model):
    """A knot in mm from the part's lower left corner, as it is drawn and dragged."""

    x: Millimetres
    y: Millimetres
    corner: bool = False


class Curve(Model):
    """A closed curve through its knots, stretched to fill ``width`` x ``height``."""

    kind: Literal["curve"] = "curve"
    width: Size
    height: Size
    knots: list[Knot] = Field(min_length=3, max_length=200)

    @property
    def lines(self) -> int:
        return 8 * len(self.knots)


class Vertex(Model):
    """A corner of a brought outline in mm, and the bulge of the segment that begins there, as DXF has it: 0 is a line.

    The bulge is the tangent of a quarter of the arc's angle, positive where it runs counter-clockwise.
    """

    x: Millimetres
    y: Millimetres
    bulge: float = Field(default=0, ge=-1000, le=1000)


Ring = Annotated[list[Vertex], Field(min_length=2, max_length=MOST_VERTICES)]


class Brought(Model):
    """An outline from a drawing, stretched to fill ``width`` x ``height``: its outer ring, then its openings."""

    kind: Literal["brought"] = "brought"
    width: Size
    height: Size
    rings: list[Ring] = Field(min_length=1, max_length=MOST_VERTICES // 2)

    @field_validator("rings")
    @classmethod
    def _few_enough(cls, rings: list[Ring]) -> list[Ring]:
        lines = sum(map(len, rings))
        if lines > MOST_VERTICES:
            raise ValueError(f"it has {lines} lines and arcs; an outline has at most {MOST_VERTICES}")
        return rings

    @property
    def lines(self) -> int:
        return sum(map(len, self.rings))


Shape = Annotated[Rectangle | Ellipse | Curve | Brought, Field(discriminator="kind")]


class RoundHole(Model):
    kind: Literal["round"] = "round"
    diameter: Size

    @property
    def lines(self) -> int:
        """About how many lines and arcs it comes to, as of every shape."""
        return 2


class RectangularHole(Model):
    kind: Literal["rectangle"] = "rectangle"
    width: Size
    height: Size
    radius: Size = Size(text="0")

    @property
    def lines(self) -> int:
        return 8


class Obround(Model):
    """A slot with round ends; ``width`` is its full length along x before it is turned."""

    kind: Literal["obround"] = "obround"
    width: Size
    height: Size

    @property
    def lines(self) -> int:
        return 4


#: About how many lines and arcs an outlined letter comes to.
_OF_A_LETTER = 75


class TextHole(Model):
    """Letters; ``height`` is that of the capitals. On a ``bend`` they follow an arc of that radius.

    ``bend`` is positive where the letters stand on top of the arc, 0 for a straight line. ``bridges`` hold the
    insides of letters such as O; the stencil font needs none.
    """

    kind: Literal["text"] = "text"
    text: Annotated[str, Field(min_length=1, max_length=60), PRINTABLE]
    font: Literal["plain", "stencil"] = "stencil"
    height: Size
    tracking: Size = Size(text="0")
    align: Align = "middle"
    bend: Size = Size(text="0")
    bridges: Size = Size(text="0")

    @property
    def lines(self) -> int:
        return _OF_A_LETTER * len(self.text)


Hole = Annotated[RoundHole | RectangularHole | Obround | Ellipse | Curve | TextHole, Field(discriminator="kind")]


class Repeat(Model):
    """A row or grid; steps run away from the corner the cut-out is placed from."""

    columns: int = Field(default=1, ge=1, le=60)
    rows: int = Field(default=1, ge=1, le=60)
    step_x: Size = Size(text="10")
    step_y: Size = Size(text="10")


class CutOut(Model):
    """A shape on a part, its middle placed by distance from a corner or from the middle of the part.

    What it ``does``: it is cut out; added to the part; kept as the only material; or sunk as a pocket ``depth`` deep.
    ``starter`` is the id of the starter that made it.
    """

    id: Id
    hole: Hole
    origin: Literal["bottom left", "bottom right", "top right", "top left", "middle"] = "bottom left"
    x: Size
    y: Size
    turn: Size = Size(text="0")
    mirrored: bool = False
    does: Literal["cut out", "add", "keep", "pocket"] = "cut out"
    depth: Size = Size(text="thickness/2")
    repeat: Repeat = Repeat()
    starter: Owner = ""

    @property
    def copies(self) -> int:
        return self.repeat.columns * self.repeat.rows

    @property
    def lines(self) -> int:
        return self.copies * self.hole.lines


class Mark(Model):
    """Text that is scored or engraved on a part; ``x`` and ``y`` are its middle, from the lower left corner."""

    text: Annotated[str, Field(min_length=1, max_length=40), PRINTABLE]
    x: Size
    y: Size
    height: Size = Size(text="4")
    turn: Size = Size(text="0")
    font: Literal["single line", "plain", "stencil"] = "single line"
    tracking: Size = Size(text="0")
    align: Align = "middle"
    bend: Size = Size(text="0")
    operation: Literal["score", "engrave"] = "score"

    @property
    def lines(self) -> int:
        return 0 if self.font == "single line" else _OF_A_LETTER * len(self.text)


class Rim(Model):
    """How far a part's drawn outline is grown, or shrunk where negative, before anything is cut from it."""

    by: Size = Size(text="0")
    corners: Literal["sharp", "round"] = "sharp"


class Part(Model):
    """A flat part. ``face`` is the one that its drawing shows, once it is put together with others.

    ``starter`` is the id of the starter that made it and keeps its shape.
    """

    id: Id
    name: Name
    stock: Id
    count: int = Field(default=1, ge=1, le=500)
    shape: Shape
    rim: Rim = Rim()
    cutouts: list[CutOut] = Field(default=[], max_length=400)
    marks: list[Mark] = Field(default=[], max_length=100)
    turns: Literal["grain", "180", "90", "any"] = "90"
    starter: Owner = ""
    face: Face = "outside"


# Joints


class EdgeOf(Model):
    """One side of a part, as it was drawn before any joint."""

    part: Id
    side: Side


class _Joint(Model):
    """What every joint has: the fit of its own, if it has one, and the ``starter`` that made it."""

    id: Id
    fit: Fit | None = None
    starter: Owner = ""

    @property
    def openings(self) -> int:
        """How many openings it cuts, as far as they were typed."""
        return 1

    @property
    def lines(self) -> int:
        """About how many lines its openings and their inserts come to."""
        return 8 * self.openings


class FingerJoint(_Joint):
    """Fingers along two edges that meet at a corner of the assembly.

    With a ``count`` the finger width follows from it. In the insets at both ends the part that starts keeps its
    material. ``proud`` is how far the fingers stand out of the other part's face. Edges are drawn at the outside
    face or, with ``reference``, at the inside one. On the longer of two edges the shorter one begins at ``shift``.
    """

    kind: Literal["finger"] = "finger"
    a: EdgeOf
    b: EdgeOf
    finger: Size
    count: int | None = Field(default=None, ge=3, le=301)
    starts: Literal["a", "b"] = "a"
    inset_start: Size = Size(text="0")
    inset_end: Size = Size(text="0")
    proud: Size = Size(text="0")
    reference: Literal["outside", "inside"] = "outside"
    shift: Size = Size(text="0")
    relief: ReliefKind = "none"
    cutter: Size = Size(text="kerf")

    @property
    def openings(self) -> int:
        return self.count or 1


class FaceLine(Model):
    """A line on the face of a part: where it begins, its turn in degrees, and how often it is repeated.

    ``x`` and ``y`` run from the lower left corner; repeated lines lie ``step`` apart, to the left of the line.
    Unevenly spaced ones begin at each of ``at_x``, as high as the first.
    """

    part: Id
    x: Size
    y: Size
    turn: Size = Size(text="0")
    lines: int = Field(default=1, ge=1, le=60)
    step: Size = Size(text="30")
    at_x: list[Size] = Field(default=[], max_length=60)

    @property
    def all_lines(self) -> int:
        return self.lines + len(self.at_x)


class TabAndSlot(_Joint):
    """Tabs along an edge that go through slots along a line on another part's face.

    The edge is drawn to the tips of its tabs less ``proud``; its shoulders are cut back to the near face. With a
    ``pocket`` the tabs are blind: they end in pockets of that depth instead of going through.
    """

    kind: Literal["tab-and-slot"] = "tab-and-slot"
    a: EdgeOf
    b: FaceLine
    tabs: int = Field(default=2, ge=1, le=60)
    width: Size
    inset: Size = Size(text="10")
    proud: Size = Size(text="0")
    pocket: Size | None = None
    relief: ReliefKind = "none"
    cutter: Size = Size(text="kerf")

    @property
    def openings(self) -> int:
        return self.tabs * self.b.all_lines


class Splice(_Joint):
    """Two boards joined in their plane: keys along the first edge, their sockets along the second.

    The tips of the keys lie on the first edge as it was drawn; ``radius`` rounds their corners for a router.
    """

    kind: Literal["splice"] = "splice"
    a: EdgeOf
    b: EdgeOf
    shape: SpliceShape = "dovetail"
    keys: int = Field(default=1, ge=1, le=60)
    size: Size
    depth: Size
    radius: Size = Size(text="0")
    gap: Literal["split", "in the sockets"] = "split"

    @property
    def openings(self) -> int:
        return self.keys


class CaptiveNut(_Joint):
    """Screws through one part's face into nuts that sit in T-slots along another part's edge.

    ``screw`` is the length under the head of a socket screw. Where tabs or fingers join the same two parts, the
    screw's length counts from where they put the face.
    """

    kind: Literal["captive-nut"] = "captive-nut"
    a: EdgeOf
    b: FaceLine
    thread: Thread = "M3"
    screw: Size = Size(text="16")
    screws: int = Field(default=1, ge=1, le=60)
    inset: Size = Size(text="15")
    relief: ReliefKind = "none"
    cutter: Size = Size(text="kerf")

    @property
    def openings(self) -> int:
        return self.screws * self.b.all_lines


class Housing(_Joint):
    """An edge that stands on lines of another part's face: let into grooves, or butted where there is no ``groove``.

    A groove is that deep and as long as the edge; an edge that slides has ``room`` before it, behind it and below it.
    """

    kind: Literal["housing"] = "housing"
    a: EdgeOf
    b: FaceLine
    groove: Size | None = None
    room: Size = Size(text="0")
    relief: ReliefKind = "none"
    cutter: Size = Size(text="kerf")

    @property
    def openings(self) -> int:
        return self.b.all_lines


class SlotAt(Model):
    """Where slots open: a side of the part, how far along it the middle of the first lies, and the step to the next.

    Unevenly spaced ones lie ``also_at``, besides the first.
    """

    part: Id
    side: Side
    at: Size
    slots: int = Field(default=1, ge=1, le=60)
    step: Size = Size(text="30")
    also_at: list[Size] = Field(default=[], max_length=60)

    @property
    def all_slots(self) -> int:
        return self.slots + len(self.also_at)


class CrossLap(_Joint):
    """Two parts that cross, each slotted part of the way; with several slots a grid of their copies."""

    kind: Literal["cross-lap"] = "cross-lap"
    a: SlotAt
    b: SlotAt
    share: Size = Size(text="1/2")
    seating: Size = Size(text="0")
    angle: Size = Size(text="90")
    relief: ReliefKind = "none"
    cutter: Size = Size(text="kerf")

    @property
    def openings(self) -> int:
        return self.a.all_slots + self.b.all_slots


Joint = Annotated[FingerJoint | TabAndSlot | CrossLap | Splice | CaptiveNut | Housing, Field(discriminator="kind")]


# Layout and hand-over


class Placement(Model):
    """One copy of a part on a sheet: turned about its lower left corner, then moved there."""

    part: Id
    copy_number: int = Field(ge=1, le=500)
    sheet: int = Field(ge=0, le=999)
    x: Millimetres
    y: Millimetres
    turn: float = Field(ge=-3600, le=3600)
    by_hand: bool = False


class LaidSheet(Model):
    """A sheet in use, in mm."""

    stock: Id
    width: float = Field(gt=0, le=LARGEST)
    height: float = Field(gt=0, le=LARGEST)


class LaidPart(Model):
    """The shape that a part had when it was laid out; tells later whether the layout is out of date."""

    part: Id
    outline: str = Field(max_length=64)
    width: float = Field(ge=0, le=2 * LARGEST)
    height: float = Field(ge=0, le=2 * LARGEST)


class Layout(Model):
    margin: Size = Size(text="5")
    gap: Size = Size(text="2")
    sheets: list[LaidSheet] = Field(default=[], max_length=1000)
    placements: list[Placement] = Field(default=[], max_length=5000)
    laid: list[LaidPart] = Field(default=[], max_length=2000)

    def without(self, gone: Container[str]) -> Layout:
        """The layout without any copy of the parts that are ``gone``."""
        placements = [placement for placement in self.placements if placement.part not in gone]
        laid = [laid for laid in self.laid if laid.part not in gone]
        return self.model_copy(update={"placements": placements, "laid": laid})


class HandOver(Model):
    kerf: Literal["in the file", "at the machine"] = "in the file"
    strokes: Literal["visible", "hairline"] = "visible"
    check_square: bool = False
    names: Literal["score", "leave out"] = "score"
    dxf: Literal["R2010", "R12"] = "R2010"


# Starters


_Word = Annotated[str, Field(max_length=40), PRINTABLE]


class Starter(Model):
    """A ready design that a few numbers drive; its parts, joints and named sizes bear its ``id``.

    ``sizes`` and ``choices`` are those of its kind, by name; what is not given is as the kind begins with.
    """

    id: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,15}$")]
    kind: Literal["tray", "box", "bracket", "figure", "rack", "frame"]
    stock: Id
    second_stock: Id
    sizes: dict[_Word, Size] = Field(default={}, max_length=30)
    choices: dict[_Word, _Word] = Field(default={}, max_length=30)


class NamedSize(Model):
    """A size of the project that other sizes may use by its name. ``starter`` is the id of the one that made it."""

    name: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,29}$")]
    size: Size
    starter: Owner = ""


class Project(Model):
    format: Literal["lean-notch project"] = "lean-notch project"
    version: Literal[2] = VERSION
    name: Name
    unit: Unit = "mm"
    fit: Fit = "glue"
    names: list[NamedSize] = Field(default=[], max_length=200)
    stocks: list[Stock] = Field(default=[], max_length=40)
    parts: list[Part] = Field(default=[], max_length=1000)
    joints: list[Joint] = Field(default=[], max_length=4000)
    starters: list[Starter] = Field(default=[], max_length=20)
    layout: Layout = Layout()
    hand_over: HandOver = HandOver()

    @model_validator(mode="after")
    def _unique_ids(self) -> Project:
        named: list[tuple[str, Iterable[str]]] = [
            ("id", (stock.id for stock in self.stocks)),
            ("id", (part.id for part in self.parts)),
            ("id", (joint.id for joint in self.joints)),
            ("id", (starter.id for starter in self.starters)),
            ("name", (name.name for name in self.names)),
        ]
        for what, given in named:
            known: set[str] = set()
            for word in given:
                if word in known:
                    raise ValueError(f"the {what} “{word}” is used twice")
                known.add(word)
        return self

    @model_validator(mode="after")
    def _not_too_much(self) -> Project:
        copies = sum(part.count for part in self.parts)
        if copies > MOST_COPIES:
            raise ValueError(f"its parts come to {copies} copies; a project has at most {MOST_COPIES}")
        holes = sum(cut.lines for part in self.parts for cut in part.cutouts)
        drawn = sum(part.shape.lines + sum(mark.lines for mark in part.marks) for part in self.parts)
        joined = sum(joint.lines for joint in self.joints)
        if drawn + holes + joined > MOST_LINES:
            copies = sum(cut.copies for part in self.parts for cut in part.cutouts)
            raise ValueError(
                f"its {copies} cut-outs, counted with all repeats, come to about {holes} lines and arcs with their "
                f"letters, its joints to {joined} and its outlines and texts to {drawn}; a project has at most "
                f"{MOST_LINES} in all. Use fewer repeats or letters, or divide it"
            )
        return self

    def stock(self, stock_id: str) -> Stock | None:
        return next((stock for stock in self.stocks if stock.id == stock_id), None)

    def part(self, part_id: str) -> Part | None:
        return next((part for part in self.parts if part.id == part_id), None)


class NotAProject(ValueError):  # noqa: N818 - it is a statement, and read as one
    """A file that is not a project this program can open; its message is a sentence to show."""


#: The largest project file that is opened, in bytes.
LARGEST_FILE = 8_000_000


def read_project(data: bytes | str) -> Project:
    """A project from its JSON, whether stored or brought as a file; older versions are carried forward.

    Raises `NotAProject`.
    """
    if len(data) > LARGEST_FILE:
        megabytes = len(data) / 1e6
        raise NotAProject(f"The file has {megabytes:.1f} MB; a project file has at most 8 MB.")
    text = data.encode("utf-8", "surrogatepass") if isinstance(data, str) else data
    try:
        raw: Any = from_json(text, allow_inf_nan=True)
    except ValueError as error:
        if b"lean-notch project" in text[:4000]:
            raise NotAProject("The project file is damaged: it breaks off or holds what is no JSON.") from error
        raw = None
    if not isinstance(raw, dict) or raw.get("format") != "lean-notch project":
        raise NotAProject("The file is not a Lean Notch project: save one with “Save to file” and open that.")
    version = raw.get("version")
    if isinstance(version, int) and version > VERSION:
        raise NotAProject(
            f"The file is of version {version}; this program reads up to version {VERSION}. "
            "Open it with a newer Lean Notch."
        )
    try:
        return Project.model_validate(carried_forward(raw))
    except ValidationError as error:
        raise NotAProject(f"The project file is damaged: {first_fault(error)}.") from error


def read_back(project: Project) -> Project:
    """The project as it will be read once it is stored. Raises `ValidationError` where it could not be."""
    return Project.model_validate_json(project.model_dump_json())


def write_project(project: Project) -> bytes:
    """The bytes of the project's JSON file; the same project gives the same bytes."""
    return (project.model_dump_json(indent=1) + "\n").encode()
