"""SVG as it is seen: icons judged by svgelements, which shares nothing with the reader; what nobody sees stays out."""

import io
from functools import reduce

import numpy as np
import pytest
import shapely
import svgelements
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.drawings.formats import read_drawing
from leannotch_core.drawings.outline import bring_outline
from leannotch_core.drawings.svg import read_svg
from leannotch_core.geometry.chords import points
from leannotch_core.geometry.loop import joined_bounds

from ...projects import ROOT

ICONS = sorted((ROOT / "web" / "node_modules" / "bootstrap-icons" / "icons").glob("*.svg"))
HEAD = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'


def svg(body, size='width="100mm" height="100mm" viewBox="0 0 100 100"'):
    return f"<svg {HEAD} {size}>{body}</svg>".encode()


def even_odd(rings):
    return reduce(shapely.symmetric_difference, (shapely.make_valid(shapely.Polygon(ring)) for ring in rings))


def judged(data):
    """The area that svgelements sees filled, by chords of its own."""
    rings = []
    for shape in svgelements.SVG.parse(io.BytesIO(data), reify=True).elements(
        lambda e: isinstance(e, svgelements.Shape) and e.fill is not None and e.fill.value is not None
    ):
        path = svgelements.Path(shape)
        path.reify()
        for run in path.as_subpaths():
            pieces = [piece for piece in svgelements.Path(run) if not isinstance(piece, svgelements.Move)]
            curved = [not isinstance(piece, svgelements.Line | svgelements.Close) for piece in pieces]
            shares = [np.linspace(0, 1, 200) if curve else np.array([0.0, 1.0]) for curve in curved]
            at = [
                (float(x) * 25.4 / 96, -float(y) * 25.4 / 96)
                for piece, share in zip(pieces, shares, strict=True)
                if piece.end is not None and piece.start is not None
                for x, y in (piece.npoint(share) if len(share) > 2 else (piece.start, piece.end))
            ]
            if len(at) > 2:
                rings.append(at)
    return even_odd(rings)


@pytest.mark.parametrize("first", range(2))
def test_icons_have_the_area_and_the_bounds_that_svgelements_sees(first):
    """Drawn 400 mm large, so that the arcs' tolerance of 0.005 mm is a hundredth of a per mille."""
    for icon in ICONS[first * 12 :: 24]:
        data = icon.read_bytes().replace(b'width="16" height="16"', b'width="400mm" height="400mm"', 1)
        rings = [[p for s in line.segments for p in points(s, 0.002)] for line in read_svg(data).lines]
        ours = even_odd([[(p.real, p.imag) for p in ring] for ring in rings if len(ring) > 2])
        seen = judged(data)
        assert ours.area == pytest.approx(seen.area, rel=5e-4), icon.name
        moved = shapely.transform(seen, lambda xy: xy + np.array([0, 400]))
        assert ours.bounds == pytest.approx(moved.bounds, abs=0.04), icon.name


# By hand: squares of so many mm, each where it says.

SQUARE = '<rect width="9" height="9"/>'
SYMBOL = '<symbol id="s" viewBox="0 0 2 2"><rect width="1" height="2"/></symbol>'
STYLE = "<style>.off { display: none } rect.cut, line { fill: none; stroke: red }</style>"
CLIP = '<clipPath id="c"><rect width="10" height="100"/></clipPath>'

#: What is drawn, the boxes of what is seen of it, and how many shapes nobody sees.
SEEN = [
    ('<rect width="20" height="10" fill="none"/>', [], 1),
    ('<rect width="20" height="10" fill="#fff"/><circle r="3" cx="50" cy="50"/>', [(47, 47, 53, 53)], 1),
    (f'<g visibility="hidden">{SQUARE}</g>', [], 1),
    (f'<g opacity="0">{SQUARE}</g>', [], 1),
    (f'{STYLE}<g class="off">{SQUARE}{SQUARE}</g>', [], 2),
    (f'{STYLE}<rect class="cut" width="9" height="9"/>', [(0, 91, 9, 100)], 0),
    ('<rect width="9" height="9" style="fill:none;stroke:#000;stroke-width:0"/>', [], 1),
    (SYMBOL, [], 0),
    (f'{SYMBOL}<use href="#s" width="20" height="20" x="10"/>', [(10, 80, 20, 100)], 0),
    (f'<defs><g id="r">{SQUARE}</g></defs><use xlink:href="#r" x="10" y="20" transform="scale(2)"/>',
     [(20, 42, 38, 60)], 0),
    (f'<mask id="m">{SQUARE}</mask><metadata>{SQUARE}</metadata><marker id="k">{SQUARE}</marker>', [], 0),
    (f'<svg x="10" y="10" width="50" height="50" viewBox="0 0 10 10">{SQUARE}</svg>', [(10, 45, 55, 90)], 0),
    (f'{CLIP}<rect clip-path="url(#c)" width="40" height="10"/><rect clip-path="url(#c)" x="50" width="4" height="4"/>',
     [(0, 90, 10, 100)], 1),
    ('<path d="M10 10H30V30"/>', [(10, 70, 30, 90)], 0),
]  # fmt: skip


@pytest.mark.parametrize(("body", "wanted", "unseen"), SEEN)
def test_what_nobody_sees_is_left_out_and_what_is_seen_stands_where_it_is_seen(body, wanted, unseen):
    drawing = read_svg(svg(body))
    found = [joined_bounds(segment.bounds() for segment in line.segments) for line in drawing.lines]
    assert found == [pytest.approx(box) for box in wanted]
    assert sum(drawing.left_out.values()) == unseen
    assert any("nobody sees" in note for note in drawing.notes) == (unseen > 0)


def test_what_the_drawing_itself_says_of_fill_and_line_holds_for_all_of_it():
    lined = 'width="100mm" viewBox="0 0 100 100" fill="none" stroke="red"'
    drawing = read_svg(svg("<path d='M20 20h60v60H20'/>", lined))
    assert [(len(line.segments), line.colour) for line in drawing.lines] == [(3, "#ff0000")]


def test_a_filled_path_is_closed_and_keeps_its_openings():
    """A ring without a Z in it, as icons are drawn: by hand 60² less 20²."""
    shape = bring_outline(svg('<path d="M20 20h60v60H20M40 40v20h20V40"/>')).shape
    assert len(shape.rings) == 2
    loose = read_svg(svg('<path fill="none" stroke="#000" d="M20 20h60v60H20"/>'))
    assert len(loose.lines[0].segments) == 3


def test_layers_are_told_by_their_labels_and_by_the_name_that_says_what_is_done():
    body = (
        '<g id="g1" data-label="Score"><g id="inner"><rect width="9" height="9"/></g></g>'
        '<g id="Labels_tray"><rect width="8" height="8"/></g>'
        '<g id="a"><g id="b"><rect x="50" width="7" height="7"/></g></g>'
    ).replace("data-label", "label")
    drawing = read_svg(svg(body))
    assert [line.layer for line in drawing.lines] == ["Score", "Labels_tray", "b"]
    assert bring_outline(svg(body)).shape.width.text == "8"


def test_valid_outlines_are_not_taken_for_crossing():
    found = bring_outline(svg('<path d="M50 30C30 10 0 40 50 80C100 40 70 10 50 30Z"/>'))
    assert len(found.shape.rings) == 1


@pytest.mark.parametrize("encoding", ["utf-8-sig", "utf-16"])
@pytest.mark.parametrize(
    "size", ['width="100mm" height="auto" viewBox="0 0 100 100"', 'width="100mm" viewBox="0 0 100 100"']
)
def test_byte_order_marks_and_automatic_heights_are_read(encoding, size):
    text = svg('<rect width="9" height="9"/>', size).decode()
    drawing = read_drawing(text.encode(encoding))
    assert joined_bounds(s.bounds() for s in drawing.lines[0].segments) == pytest.approx((0, 91, 9, 100))
    assert drawing.unit_stated


@pytest.mark.parametrize(
    ("size", "side"),
    [
        # CSS Values and Units 3, 6.2: 96 px to the inch, so 100 px are 26.458 mm.
        ('width="100mm" height="100mm"', 26.458),
        ("", 26.458),
        ('viewBox="0 0 100 100"', 26.458),
        ('width="100mm" height="100mm" viewBox="0 0 100 100"', 100),
        ('width="72pt" height="72pt" viewBox="0 0 100 100"', 25.4),
        ('width="100mm" height="50mm" viewBox="0 0 100 100"', 50),
        # One side alone keeps the shape of the view box, whichever it is and wherever it is said.
        ('height="50mm" viewBox="0 0 100 100"', 50),
        ('width="50mm" viewBox="0 0 100 200"', 50),
        ('height="50mm" width="100%" viewBox="0 0 100 100"', 50),
        ('style="height: 50mm" viewBox="0 0 100 100"', 50),
        ('style="width:50mm;height:50mm" width="9mm" viewBox="0 0 100 100"', 50),
    ],
)
def test_sizes_are_those_of_the_standard_and_what_was_assumed_is_told(size, side):
    drawing = read_svg(svg('<rect width="100" height="100"/>', size))
    left, _, right, _ = joined_bounds(s.bounds() for s in drawing.lines[0].segments)
    assert right - left == pytest.approx(side, abs=1e-3)
    assert drawing.unit_stated == (side != 26.458) and any("26.458" in note for note in drawing.notes) == (
        side == 26.458
    )


def test_uses_of_uses_end_at_once():
    groups = "".join(f'<g id="g{n}"><use href="#g{n - 1}"/><use href="#g{n - 1}"/></g>' for n in range(1, 40))
    with pytest.raises(BrokenFile, match="at most"):
        read_svg(svg(f'<g id="g0"><path d="M0 0h9v9z"/></g>{groups}'))
