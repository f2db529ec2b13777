"""Line-and-arc shapes for the kernel's tests, and shapely as their judge."""

import cmath

import shapely
from hypothesis import strategies as st
from leannotch_core.geometry.chords import as_polygon
from leannotch_core.geometry.loop import Outline
from leannotch_core.geometry.segment import Arc, Motion
from leannotch_core.parts.shapes.obround import obround
from leannotch_core.parts.shapes.rectangle import CornerSize, rectangle
from leannotch_core.parts.shapes.round_hole import round_hole

#: Sizes on a coarse grid, so that coincident and tangent edges come up often.
sizes = st.integers(2, 40).map(lambda n: n / 2)
places = st.builds(complex, st.integers(-20, 20).map(lambda n: n / 2), st.integers(-20, 20).map(lambda n: n / 2))


@st.composite
def outlines(draw, name="shape"):
    """A rectangle, rounded rectangle, circle or obround, turned and moved."""
    kind = draw(st.sampled_from(["rectangle", "rounded", "circle", "obround"]))
    width, height = draw(sizes), draw(sizes)
    if kind == "circle":
        loop = round_hole(name, width)
    elif kind == "obround":
        loop = obround(name, width, height)
    else:
        radius = min(width, height) / draw(st.sampled_from([2, 3, 4]))
        corners = {"top left": CornerSize("round", radius), "bottom right": CornerSize("chamfer", radius)}
        loop = rectangle(name, width, height, corners if kind == "rounded" else {})
    turn = cmath.rect(1, draw(st.sampled_from([0, 0, 0.3, cmath.pi / 2, 1.1])))
    return Outline(loop.moved(Motion(turn, draw(places))))


def judge(region, tolerance=0.0002):
    """The region as shapely sees it, in fine chords."""
    return shapely.union_all([as_polygon(outline, tolerance) for outline in region])


def differ(a, b):
    """Area (mm²) that only one of two shapes has. On a grid: GEOS can fail on edges that nearly coincide."""
    return shapely.symmetric_difference(a, b, grid_size=1e-7).area


def area(region):
    return sum(outline.area for outline in region)


def sources(region):
    return {segment.source for outline in region for loop in outline.loops for segment in loop}


def arcs(region):
    return [s for outline in region for loop in outline.loops for s in loop if isinstance(s, Arc)]


def check_closed(region):
    """Every segment starts exactly where the one before it ends."""
    for outline in region:
        for loop in outline.loops:
            for before, after in zip(loop.segments, loop.segments[1:] + loop.segments[:1], strict=True):
                assert before.end == after.start
