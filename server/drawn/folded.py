"""A bent part folded in space, as the browser draws it: its pieces, what turns with each bend, its sizes."""

from __future__ import annotations

import numpy as np
from leannotch_core.assembly.bend_notes import order_of
from leannotch_core.assembly.bent import SolidPiece, solid_pieces
from leannotch_core.assembly.press import Reached, names_of_faces
from leannotch_core.bends.folded import Folded
from leannotch_core.bends.legs import Leg, legs_of, typed_leg
from leannotch_core.document.bend import Bend
from leannotch_core.evaluate import EvaluatedPart
from shown.join import CopyShown, MeshShown, SpanShown
from shown.shape import FaceShown, FoldedShown, FoldShown, TypedLegShown

#: Chords of arcs in space depart from them by at most this (mm) on the screen.
CHORD = 0.03


def folded_shown(part: EvaluatedPart, bent: Folded) -> FoldedShown:
    pieces = solid_pieces(part, bent, CHORD)
    order = order_of(part, bent)
    return FoldedShown(
        meshes=[_mesh(piece) for piece in pieces],
        copies=[CopyShown(part=_key(p), number=1, group=0, matrix=np.eye(4)[:3].ravel().tolist()) for p in pieces],
        faces=_faces(bent, pieces),
        folds=_folds(part, bent),
        overall=_overall(bent),
        order=list(order.order) if isinstance(order, Reached) else [],
    )


def _key(piece: SolidPiece) -> str:
    return _face(piece.face) if piece.face is not None else f"{piece.bend} {piece.between[0]} {piece.between[1]}"


def _face(number: int) -> str:
    return f"face {number}"


def _mesh(piece: SolidPiece) -> MeshShown:
    mesh = piece.body.to_mesh()
    corners = np.round(mesh.vert_properties[:, :3], 4).ravel().tolist()
    return MeshShown(part=_key(piece), corners=corners, triangles=mesh.tri_verts.ravel().tolist())


def _faces(bent: Folded, pieces: list[SolidPiece]) -> list[FaceShown]:
    names = names_of_faces(bent)
    held = [piece for piece in pieces if piece.face is not None]
    normals = [bent.normal(piece.face or 0) for piece in held]
    return [
        FaceShown(
            mesh=_key(piece),
            called=names[piece.face or 0],
            middle=np.round(np.array(piece.body.bounding_box()).reshape(2, 3).mean(axis=0), 3).tolist(),
            angles=[float(np.degrees(np.arccos(np.clip(normal @ other, -1.0, 1.0))).round(4)) for other in normals],
        )
        for piece, normal in zip(held, normals, strict=True)
    ]


def _folds(part: EvaluatedPart, bent: Folded) -> list[FoldShown]:
    found: dict[str, FoldShown] = {}
    legs = legs_of(bent)
    typed = {bend.id: _leg(legs, bend) for bend in part.part.bends}
    for at, piece in enumerate(bent.bent):
        bend, t = piece.hinge.bend, bent.thickness
        if bend.id in found:
            continue
        begin = bend.middle - piece.outward * bend.half
        height = t + bend.bend.radius if bend.up else -bend.bend.radius
        point = (piece.pose @ np.array([begin.real, begin.imag, height, 1.0]))[:3]
        side = piece.outward * -1j * (1 if bend.up else -1)
        axis = piece.pose[:3, :3] @ np.array([side.real, side.imag, 0.0])
        # Near an end, where no other number stands.
        place = bend.start + 0.12 * (bend.end - bend.start)
        middle = piece.place(np.array([place]), np.array([t / 2]))[0]
        found[bend.id] = FoldShown(
            id=bend.id,
            called=bend.name,
            mesh=f"{bend.id} {piece.hinge.near} {piece.hinge.far}",
            turns=_beyond(bent, at),
            point=point.round(4).tolist(),
            axis=axis.round(6).tolist(),
            at=middle.round(3).tolist(),
            angle=bend.bend.angle,
            leg=typed.get(bend.id),
        )
    return list(found.values())


def _leg(legs: list[Leg], typed: Bend) -> TypedLegShown | None:
    leg = typed_leg(legs, typed)
    if leg is None:
        return None
    return TypedLegShown(mesh=_face(leg.face), length=leg.typed(typed.measured), measured=typed.measured)


def _beyond(bent: Folded, at: int) -> list[str]:
    """The meshes that turn with a bend: what was reached from the root by it, in the order of folding."""
    first = bent.bent[at].hinge
    here = first.far if bent.bent[at].outward == first.bend.onward else first.near
    faces, meshes = {here}, [_face(here)]
    for piece in bent.bent[at + 1 :]:
        hinge = piece.hinge
        start = hinge.near if piece.outward == hinge.bend.onward else hinge.far
        end = hinge.far if start == hinge.near else hinge.near
        if start in faces:
            faces.add(end)
            meshes += [f"{hinge.bend.id} {hinge.near} {hinge.far}", _face(end)]
    return meshes


def _overall(bent: Folded) -> list[SpanShown]:
    points = bent.corners()
    low, high = points.min(axis=0), points.max(axis=0)
    spans = []
    for axis, (start, end) in enumerate(
        (
            ((low[0], low[1], low[2]), (high[0], low[1], low[2])),
            ((high[0], low[1], low[2]), (high[0], high[1], low[2])),
            ((high[0], low[1], low[2]), (high[0], low[1], high[2])),
        )
    ):
        spans.append(
            SpanShown(
                axis="xyz"[axis],
                start=[float(value) for value in start],
                end=[float(value) for value in end],
                length=float(high[axis] - low[axis]),
                driven=None,
            )
        )
    return spans
