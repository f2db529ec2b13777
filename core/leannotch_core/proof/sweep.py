"""The sweep: what the beam leaves of a sheet.

Shapely's buffer does the sweeping, not the kernel that made the cut lines: the proof shares no geometry with
what it judges. Its chords, and those of the beam, leave the true curve by at most a fifth of a thousandth of a mm.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Any, Literal

import numpy as np
import numpy.typing as npt
import shapely
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components
from shapely import Polygon, STRtree

from ..document.operations import BY_NAME, is_cut, operation_named
from ..document.sizes import shown
from ..drawings.chains import Chain, chained, without_doubles
from ..drawings.drawing import BrokenFile, Drawing
from .against.order import WorkedLine
from .chords import Point, as_lines
from .fault import Fault
from .hanging import Hanging, without_gaps
from .oval import ROUND, SweptOval
from .round_beam import TOLERANCE, passed_over, quarter
from .shared import bounded, joined, outlines

#: An array of shapely shapes.
Shapes = npt.NDArray[Any]

#: Smaller crumbs (mm²) are dust.
DUST = 1e-4


@dataclass(frozen=True, slots=True)
class Piece:
    """A piece that falls out, as it measures: mm and mm². One that is ``held`` hangs on so many holding tabs.

    It is measured as it is once it has been broken out.
    """

    kind: Literal["part", "slug"]
    shape: Polygon
    held: int = 0

    @property
    def width(self) -> float:
        return float(self.shape.bounds[2] - self.shape.bounds[0])

    @property
    def height(self) -> float:
        return float(self.shape.bounds[3] - self.shape.bounds[1])

    @property
    def holes(self) -> int:
        return len(self.shape.interiors)

    @property
    def perimeter(self) -> float:
        """Length of the outer edge."""
        return float(self.shape.exterior.length)


@dataclass(slots=True)
class Proof:
    """What a file would give: its closed outlines, pieces, the tabs that these hang on, and its faults.

    ``slits`` are how many of the open lines lie within a piece, and open it without anything coming out.
    """

    kerf: float
    pieces: list[Piece] = field(default_factory=list)
    closed: list[Chain] = field(default_factory=list)
    open_chains: list[Chain] = field(default_factory=list)
    doubled: int = 0
    hanging: list[Hanging] = field(default_factory=list)
    slits: int = 0
    faults: list[Fault] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)


def prove(drawing: Drawing, kerf: float, tabs: Sequence[Point] = (), oval: SweptOval = ROUND) -> Proof:
    """Sweeps a beam of width ``kerf`` (mm), the mean where it is ``oval``, along every cut line of a drawing; ``tabs``
    are where some are meant.

    A kerf of 0 measures the lines as they stand, for a file whose kerf is left to the machine. Raises `BrokenFile`
    where lines cross one another more often than can be swept.
    """
    proof = Proof(kerf, notes=list(drawing.notes))
    cut = [s for line in drawing.lines if is_cut(line.layer) and not line.lead for s in line.segments]
    leads = [s for line in drawing.lines if is_cut(line.layer) and line.lead for s in line.segments]
    if not cut:
        proof.faults.append(Fault("no-cuts", "The file has no cut lines"))
        return proof
    _check_few(shapely.linestrings([[(s.start.real, s.start.imag), (s.end.real, s.end.imag)] for s in cut]))
    kept, doubles = without_doubles(cut)
    proof.doubled = len(doubles)
    for double in doubles[:20]:
        at = double.at(0.5)
        proof.faults.append(Fault("doubled", f"A line of {shown(double.length)} at {_spot(at)} is drawn twice", at))
    chains, proof.hanging = without_gaps(chained(kept), tabs)
    lead_chains = [Chain((lead,), closed=False) for lead in leads]
    shared = bounded(chains)
    sharing = {id(chain) for chain in shared}
    proof.open_chains = [chain for chain in chains if not chain.closed and id(chain) not in sharing]
    for chain in proof.open_chains[:20]:
        proof.faults.append(_open_fault(chain))
    closed = proof.closed = [chain for chain in chains if chain.closed]
    _check_crossings(closed, proof)
    found = _drilled(_pieces([*chains, *lead_chains], closed, shared, kerf, oval), drawing)
    proof.pieces = [_held(piece, proof.hanging, kerf) for piece in found]
    proof.slits = _slits(proof)
    return proof


def _slits(proof: Proof) -> int:
    """How many open lines begin and end within what is cut out."""
    if not proof.open_chains or not proof.closed:
        return 0
    shapes = [Polygon(ring.coords) for ring in as_lines([chain.segments for chain in proof.closed], TOLERANCE)]
    ends = [[(p.real, p.imag) for p in (c.segments[0].start, c.segments[-1].end)] for c in proof.open_chains]
    within = STRtree(shapes).query(shapely.multipoints(ends), predicate="within")[0]
    return len(np.unique(within))


def in_turn(drawing: Drawing) -> list[WorkedLine]:
    """What a machine works along of a drawing, line by line as the file has it."""
    lines = ((line, operation_named(line.layer)) for line in drawing.lines if not line.lead)
    return [
        WorkedLine(line.segments, is_cut(line.layer))
        for line, named in lines
        if named is None or not BY_NAME[named].beside
    ]


def _drilled(pieces: Sequence[Piece], drawing: Drawing) -> list[Piece]:
    """The pieces less the holes that are drilled in them: those are drawn as they are to be."""
    drilled = [line.segments for line in drawing.lines if operation_named(line.layer) == "drill"]
    if not drilled:
        return list(pieces)
    holes = shapely.union_all([Polygon(ring.coords) for ring in as_lines(drilled, TOLERANCE)])
    return [replace(piece, shape=piece.shape.difference(holes)) for piece in pieces]


def _held(piece: Piece, hanging: Sequence[Hanging], kerf: float) -> Piece:
    """The piece with the count of the tabs at its outer edge."""
    if not hanging:
        return piece
    middles = shapely.points([[tab.middle.real, tab.middle.imag] for tab in hanging])
    near = shapely.dwithin(shapely.LinearRing(piece.shape.exterior), middles, kerf / 2 + 0.01)
    return replace(piece, held=int(near.sum()))


def _spot(point: Point) -> str:
    return f"x {point.real:.2f}, y {point.imag:.2f}"


def _open_fault(chain: Chain) -> Fault:
    start, end = chain.segments[0].start, chain.segments[-1].end
    length = sum(segment.length for segment in chain.segments)
    text = f"An open line of {shown(length)} ends at {_spot(end)}, {shown(abs(end - start))} from where it began"
    return Fault("open-line", text, end)


def _check_crossings(closed: Sequence[Chain], proof: Proof) -> None:
    if len(closed) < 2:
        return
    rings = as_lines([chain.segments for chain in closed], 0.005)
    for i, j in zip(*STRtree(rings).query(rings, predicate="crosses"), strict=True):
        if i < j and not _touch(Polygon(rings[i].coords), Polygon(rings[j].coords)):
            point = rings[i].intersection(rings[j]).representative_point()
            at = complex(point.x, point.y)
            proof.faults.append(Fault("crossing", f"Two outlines cross at {_spot(at)}", at))


def _touch(one: Polygon, other: Polygon) -> bool:
    """Whether outlines that meet only touch, as corners of tiles do that are parted by lines which they share."""
    # One that goes round several tiles may touch itself, too.
    return not shapely.overlaps(*(shapely.make_valid(each) for each in (one, other)))


def _pieces(
    chains: Sequence[Chain], closed: Sequence[Chain], shared: Sequence[Chain], kerf: float, oval: SweptOval
) -> list[Piece]:
    """The faces that the lines bound, less what the beam takes along their edges and along lines that end in them."""
    drawn = joined(_lines(chains), shared) if shared else _lines(chains)
    drawn = oval.stretched(drawn, kerf)
    faces, bridges, ends, _ = shapely.polygonize_full([shapely.node(shapely.multilinestrings(drawn))])
    left = shapely.get_parts(faces)
    if kerf > 0:
        # What lies further than half a kerf from all edges of a face is just what no beam along them touches.
        left = shapely.buffer(left, -kerf / 2, quad_segs=quarter(kerf / 2))
        left = shapely.get_parts(
            _swept(left, np.concatenate([shapely.get_parts(bridges), shapely.get_parts(ends)]), kerf)
        )
    left = oval.drawn_back(left, kerf)
    left = left[shapely.area(left) >= DUST]
    if not len(left) or not closed:
        return []
    loops = outlines(closed, shared, 0.005)
    depths = np.bincount(
        STRtree(loops).query(shapely.point_on_surface(left), predicate="within")[0], minlength=len(left)
    )
    pieces = [Piece("part" if depth % 2 else "slug", s) for s, depth in zip(left, depths, strict=True) if depth]
    return sorted(pieces, key=lambda piece: (piece.kind, -piece.shape.area, piece.shape.bounds))


#: Crossings beyond these take more memory and time than a proof has.
MOST_CROSSINGS = 150_000

#: So many lines are looked at to estimate how many crossings there are.
_SAMPLE = 100


def _check_few(drawn: Shapes) -> None:
    """Raises `BrokenFile` where lines, or the chords of arcs, cross one another more often than can be swept."""
    if len(drawn) < 4 * _SAMPLE:
        return
    sample = drawn[:: len(drawn) // _SAMPLE]
    met = STRtree(drawn).query(sample, predicate="crosses").shape[1]
    crossings = met / len(sample) * len(drawn) / 2
    if crossings > MOST_CROSSINGS:
        raise BrokenFile(
            f"The cut lines cross one another about {float(f'{crossings:.2g}'):.0f} times; at most {MOST_CROSSINGS} "
            "crossings are proved. Leave out what is not to be cut."
        )


def _lines(chains: Sequence[Chain]) -> Shapes:
    """The chains as lines; those whose ends are joined end just where they began."""
    points, own = shapely.get_coordinates(as_lines([c.segments for c in chains], TOLERANCE), return_index=True)
    stops = np.searchsorted(own, np.arange(len(chains)), side="right")
    starts = np.concatenate([[0], stops[:-1]])
    joined = np.array([chain.closed for chain in chains])
    points[stops[joined] - 1] = points[starts[joined]]
    found: Shapes = shapely.linestrings(points, indices=own)
    return found


def _swept(faces: Shapes, loose: Shapes, kerf: float) -> Shapes:
    """Faces less the sweep along lines that run into them."""
    if not len(loose) or not len(faces):
        return faces
    tree = STRtree(loose)
    # What ends at the other side of a face's edge only touches what is left of it.
    met, by = tree.query(faces, predicate="dwithin", distance=kerf / 2 - TOLERANCE)
    if not len(met):
        return faces
    near = tree.query(loose, predicate="dwithin", distance=kerf)
    beam_of = connected_components(coo_array((np.ones(len(near[0])), near), shape=(len(loose), len(loose))))[1]
    order = np.argsort(beam_of, kind="stable")
    drawn = shapely.multilinestrings(loose[order], indices=beam_of[order])
    beams = passed_over(drawn, kerf / 2, quarter(kerf / 2))
    # Beams are apart, so that those of a face are one shape as they are.
    pairs = np.unique(np.column_stack([met, beam_of[by]]), axis=0)
    those, which = np.unique(pairs[:, 0], return_inverse=True)
    parts, own = shapely.get_parts(beams[pairs[:, 1]], return_index=True)
    faces[those] = shapely.difference(faces[those], shapely.multipolygons(parts, indices=which[own]))
    return faces
