"""Every mend that a finding offers settles it, and leaves what can be cut."""

import pytest
from leannotch_core.assembly.notes import with_faces
from leannotch_core.assembly.poses import assemble
from leannotch_core.edits.command import apply
from leannotch_core.evaluate import evaluate

from ...projects import cross_lap, finger, nuts, part, project, splice, stock, tab
from ..joints.test_housings import housing

PLY, ROUTED = [stock()], [stock(readings=("6",), kerf="3.175")]
THICK = [stock(readings=("12",))]
PLATES = [part("a", 100, 60), part("b", 100, 60)]
FACED = [part("a", 60, 100), part("b", 120, 120)]


def corner(kind, size):
    return [{"corner": "top left", "kind": kind, "size": size}]


def hole(**more):
    return {"id": "cut", "hole": {"kind": "rectangle", "width": "20", "height": "12", **more.pop("hole", {})}} | more


CASES = {
    "fingers too wide for three": (PLATES, [finger("a", "left", "b", "left", "40")], PLY, "too short for three"),
    "fingers too many for the kerf, by count": (
        PLATES,
        [finger("a", "left", "b", "left", count=301)],
        PLY,
        "not wider",
    ),
    "fingers too many for the kerf, by width": (PLATES, [finger("a", "left", "b", "left", "0.2")], PLY, "not wider"),
    "an even count": (PLATES, [finger("a", "left", "b", "left", count=4)], PLY, "end with another part"),
    "an inset at the start that is too long": (
        PLATES,
        [finger("a", "left", "b", "left", inset_start="70")],
        PLY,
        "leave no room for fingers",
    ),
    "an inset at the end that is too long": (
        PLATES,
        [finger("a", "left", "b", "left", inset_start="5", inset_end="60")],
        PLY,
        "leave no room for fingers",
    ),
    "slots that are deep by their seating": (
        PLATES,
        [cross_lap("a", 50, "b", 50, seating="80")],
        PLY,
        "cuts it in two",
    ),
    "tabs with an inset too large": (
        FACED,
        [tab("a", "left", "b", 20, 10, tabs=3, width="10", inset="70", line={"turn": "90"})],
        PLY,
        "do not fit",
    ),
    "more nuts than have room": (
        FACED,
        [nuts("a", "left", "b", 20, 10, screw="20", screws=60, line={"turn": "90"})],
        [stock(readings=("4",))],
        "do not fit on",
    ),
    "more keys than have room": (
        PLATES,
        [splice("a", "right", "b", "left", size="9", depth="6", keys=60)],
        ROUTED,
        "do not fit on",
    ),
    "both slots open at one side": (
        PLATES,
        [cross_lap("a", 50, "b", 50) | {"b": {"part": "b", "side": "top", "at": "50"}}],
        PLY,
        "cannot slide together",
    ),
    "a share of one": (PLATES, [cross_lap("a", 50, "b", 50, share="1")], PLY, "leaves one part uncut"),
    "a flat angle": (PLATES, [cross_lap("a", 50, "b", 50, angle="4")], PLY, "almost in one plane"),
    "tabs that do not fit": (
        FACED,
        [tab("a", "left", "b", 20, 10, tabs=3, width="40", line={"turn": "90"})],
        PLY,
        "do not fit",
    ),
    "tabs that stand short": (
        FACED,
        [tab("a", "left", "b", 20, 10, proud="-1", line={"turn": "90"})],
        PLY,
        "cannot stand 1.00 mm short",
    ),
    "a pocket through the sheet": (
        FACED,
        [tab("a", "left", "b", 20, 10, pocket="20", line={"turn": "90"})],
        PLY,
        "is not blind",
    ),
    "keys too large": (PLATES, [splice("a", "right", "b", "left", size="62", depth="8")], PLY, "do not fit on"),
    "a knob without a neck": (
        PLATES,
        [splice("a", "right", "b", "left", shape="round knob", size="14", depth="8")],
        PLY,
        "no neck that could hold",
    ),
    "corners too round for their keys": (
        PLATES,
        [splice("a", "right", "b", "left", size="15", depth="8", radius="6")],
        PLY,
        "too large for these keys",
    ),
    "a screw too short": (
        FACED,
        [nuts("a", "left", "b", 20, 10, screw="6", line={"turn": "90"})],
        PLY,
        "is too short",
    ),
    "screws too close": (
        FACED,
        [nuts("a", "left", "b", 20, 10, screw="20", screws=4, inset="44", line={"turn": "90"})],
        [stock(readings=("4",))],
        "do not fit on",
    ),
    "a groove through the sheet": (
        FACED,
        [housing("a", "left", "b", 20, 60, groove="9")],
        PLY,
        "leaves no floor",
    ),
    "a groove with too much room": (
        FACED,
        [housing("a", "left", "b", 10, 60, groove="1", room="2")],
        PLY,
        "does not fit into a groove",
    ),
    "corners where a router's insert cannot seat": (
        PLATES,
        [finger("a", "left", "b", "left", "20")],
        ROUTED,
        "its partner cannot seat",
    ),
    "a corner that each leaves to the next": (
        [part("a", 60, 60), part("b", 60, 60), part("c", 60, 60)],
        [
            finger("a", "right", "b", "left", "12", id="one"),
            finger("b", "bottom", "c", "right", "12", id="two"),
            finger("c", "bottom", "a", "bottom", "12", id="three"),
        ],
        PLY,
        "stays empty",
    ),
    "a corner too round for its part": ([part("a", 25, 60, corners=corner("round", "40"))], [], PLY, "too large"),
    "a cut-out too round": (
        [part("a", 60, 60, cutouts=[hole(hole={"radius": "9"}, x="30", y="30")])],
        [],
        PLY,
        "a radius of 9 mm is too large",
    ),
    "a pocket as deep as the sheet": (
        [part("a", 60, 60, cutouts=[hole(x="30", y="30", does="pocket", depth="4")])],
        [],
        PLY,
        "goes through",
    ),
    "islands of letters that fall out": (
        [
            part(
                "a",
                80,
                40,
                cutouts=[
                    {
                        "id": "cut",
                        "hole": {"kind": "text", "text": "OA", "font": "plain", "height": "16"},
                        "x": "40",
                        "y": "20",
                    }
                ],
            )
        ],
        [],
        PLY,
        "islands of its letters fall out",
    ),
    "a brought outline that is stretched": (
        [
            part("a", 1, 1)
            | {
                "shape": {
                    "kind": "brought",
                    "width": "90",
                    "height": "30",
                    "rings": [
                        [{"x": 0, "y": 0}, {"x": 40, "y": 0, "bulge": 0.4}, {"x": 40, "y": 20}, {"x": 0, "y": 20}]
                    ],
                }
            }
        ],
        [],
        PLY,
        "is stretched wider",
    ),
    "a roof that is too wide": (
        [part("floor", 128, 90), part("wall", 90, 50, count=2), part("roof", 140, 90)],
        [
            finger("wall", edge, plate, side, id=f"{plate}_{side}")
            for plate, edge in (("floor", "bottom"), ("roof", "top"))
            for side in ("left", "right")
        ],
        PLY,
        "stands where 128 mm would meet it",
    ),
    "a wall that is missing": (
        [part("floor", 128, 90), part("wall", 90, 50)],
        [finger("wall", "bottom", "floor", side, id=side) for side in ("left", "right")],
        PLY,
        "needs one more of it",
    ),
    "a wall drawn from its other face": (
        [
            *(part(name, 160, 60) for name in ("front", "back")),
            part("right", 120, 60),
            part("left", 120, 60, face="inside"),
            part("floor", 160, 120, face="inside"),
        ],
        [
            finger("front", "right", "right", "left", id="one"),
            finger("right", "right", "back", "left", id="two"),
            finger("back", "right", "left", "left", id="three"),
            finger("left", "right", "front", "left", id="four"),
            *(
                finger(wall, "bottom", "floor", side, id=f"floor_{wall}")
                for wall, side in (("front", "bottom"), ("right", "right"), ("back", "top"), ("left", "left"))
            ),
        ],
        PLY,
        "another way round",
    ),
}


def findings_of(document):
    result = evaluate(document)
    return [*result.findings, *with_faces(document, result, assemble(document, result))]


def mended(document, finding):
    """The document as the first of the finding's mends leaves it."""
    return apply(document, finding.mends[0].command)


@pytest.mark.parametrize("case", CASES)
def test_the_mend_that_is_offered_settles_what_was_told(case):
    parts, joints, stocks, says = CASES[case]
    document = project(parts, joints, stocks)
    finding, *others = [found for found in findings_of(document) if says in found.text]
    assert finding.mends[0].label and all(other.mends == finding.mends for other in others)
    after = mended(document, finding)
    assert after != document
    left = findings_of(after)
    assert [found.text for found in left if says in found.text] == []
    # Nothing worse comes of it: what could not be built can be.
    assert not evaluate(after).errors
    assert len(evaluate(after).meetings) >= len(evaluate(document).meetings)


def test_no_mend_is_offered_that_would_change_nothing():
    """Three fingers are the fewest: on an edge as short as that, no count helps."""
    stocks = [stock(kerf="1.4")]
    short = [part("a", 100, 4), part("b", 100, 4)]
    for width in ({"count": 3}, {"width": "1.3"}):
        [found] = [
            f for f in findings_of(project(short, [finger("a", "left", "b", "left", **width)], stocks)) if not f.mends
        ]
        assert "not wider than the kerf" in found.text
