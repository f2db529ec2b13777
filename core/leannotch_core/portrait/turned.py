"""A thing seen from all sides, together and pulled apart: pictures to be turned through without anything to compute."""

from __future__ import annotations

import math
from collections.abc import Sequence

import manifold3d
import numpy as np

from ..assembly.poses import Assembly
from ..assembly.space import Matrix, moved
from ..evaluate import Result
from .drawn import body_of, bounds_of, chord_for, painted, standing, svg
from .faces import Face, faces_of
from .seen import seen

#: From so many sides it is seen, and so far its parts go from its middle when it is pulled apart, as a share of how far
#: they are from that.
SIDES, APART = 12, 0.7

#: What has more faces than this from its front is seen from there alone: from all sides it would be minutes of work,
#: and too many megabytes to be sent by mail.
MOST_FACES = 500

_Bodies = Sequence[tuple[manifold3d.Manifold, Matrix]]


def turned(result: Result, assembly: Assembly, apart: bool = False) -> list[str]:
    """Pictures from one side after the other, all in one box; none where nothing is joined or bent, or pulled apart."""
    copies = standing(result, assembly)
    if len(copies) < (2 if apart else 1):
        return []
    parts = {copy.part: result.parts[copy.part] for copy in copies}
    chord = chord_for(parts.values())
    solids = {name: body_of(part, chord) for name, part in parts.items()}
    bodies = [(solids[copy.part], assembly.poses[copy]) for copy in copies]
    return _pictures(_pulled(bodies) if apart else bodies)


def _pictures(bodies: _Bodies) -> list[str]:
    views = [_seen_from(bodies, 0)]
    if len(views[0]) <= MOST_FACES:
        views += [_seen_from(bodies, side) for side in range(1, SIDES)]
    box = bounds_of(face.shape for view in views for face in view)
    return [svg(box, map(painted, view)) for view in views]


def _seen_from(bodies: _Bodies, side: int) -> list[Face]:
    return seen(faces_of([(body, _about(360 * side / SIDES) @ pose) for body, pose in bodies]))


def _about(degrees: float) -> Matrix:
    """A turn about the upright axis."""
    cos, sin = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    turn = np.eye(4)
    turn[:2, :2] = [[cos, -sin], [sin, cos]]
    return turn


def _pulled(bodies: _Bodies) -> _Bodies:
    """Each body further from the middle of all."""
    middles = np.array([_middle(body, pose) for body, pose in bodies])
    ways = (middles - (middles.min(axis=0) + middles.max(axis=0)) / 2) * APART
    return [(body, moved(pose, way)) for (body, pose), way in zip(bodies, ways, strict=True)]


def _middle(body: manifold3d.Manifold, pose: Matrix) -> Matrix:
    ends = np.array(body.bounding_box()).reshape(2, 3)
    found: Matrix = pose[:3, :3] @ ends.mean(axis=0) + pose[:3, 3]
    return found
