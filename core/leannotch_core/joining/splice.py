"""Splices read from a document."""

from __future__ import annotations

from ..document import Splice
from ..joints.fit import JointCut
from ..joints.partner import Partner
from ..joints.splice import SpliceSpec, cut_splice
from ..sizes import positive, shown
from .given import Given


def splice(given: Given, joint: Splice, a: Partner | None, b: Partner | None) -> JointCut | None:
    size = given.size("size", joint.size, "Key size", reader=positive)
    depth = given.size("depth", joint.depth, "Key depth", reader=positive)
    radius = given.size("radius", joint.radius, "Corner radius")
    if a is None or b is None or size is None or depth is None or radius is None:
        return None
    if abs(a.thickness - b.thickness) > 1e-6:
        given.warn(
            f"{a.name} is {shown(a.thickness)} thick and {b.name} {shown(b.thickness)}; "
            "their faces will not be flush on both sides"
        )
    fit, clearance = given.fit()
    spec = SpliceSpec(
        joint.id,
        joint.a.side,
        joint.b.side,
        joint.shape,
        joint.keys,
        size,
        depth,
        radius,
        joint.gap == "split",
        fit,
        clearance,
    )
    return cut_splice(spec, a, b)
