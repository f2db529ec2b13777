"""The dry fit as the browser shows it: a mesh for each part, a pose for each copy, and what was found of the fit."""

from __future__ import annotations

import numpy as np
from drawn.folded import CHORD
from leannotch_core.assembly.inner import inner_spans
from leannotch_core.assembly.inside import put_inside
from leannotch_core.assembly.order import AssemblyOrder, AssemblyStep
from leannotch_core.assembly.poses import Assembly, Copy, assemble
from leannotch_core.assembly.solids import Clash, solid
from leannotch_core.assembly.space import extent
from leannotch_core.assembly.step_words import step_words
from leannotch_core.evaluate import EvaluatedPart, Result
from leannotch_core.project.project import Project
from leannotch_core.remembered import remembered
from leannotch_core.starters.in_place import Driven, drives_overall, drives_span
from shown.join import (
    ClashShown,
    CopyRef,
    CopyShown,
    DrivenShown,
    DryFitShown,
    FitShown,
    MeshShown,
    SpanShown,
    StepShown,
)

from workshop.revisions import document_of, result_of


@remembered(most=32)
def assembly_of(revision_id: int) -> Assembly:
    return assembled(document_of(revision_id), result_of(revision_id))


def assembled(document: Project, result: Result) -> Assembly:
    """All copies in space, what goes into others inside them."""
    return put_inside(result, assemble(document, result))


def dry_fit_shown(revision_id: int, version: int) -> DryFitShown:
    return drawn(document_of(revision_id), result_of(revision_id), assembly_of(revision_id), version)


def drawn(document: Project, result: Result, assembly: Assembly, version: int) -> DryFitShown:
    group_of = {copy: number for number, group in enumerate(assembly.groups) for copy in group}
    return DryFitShown(
        version=version,
        meshes=[_mesh(part_id, part) for part_id, part in result.parts.items()],
        copies=[
            CopyShown(
                part=copy.part, number=copy.number, group=group_of[copy], matrix=pose[:3].ravel().round(6).tolist()
            )
            for copy, pose in assembly.poses.items()
        ],
        overall=_overall(document, result, assembly),
        inner=[
            SpanShown(
                axis="xyz"[span.axis],
                start=list(span.start),
                end=list(span.end),
                length=span.length,
                driven=driven_shown(drives_span(document, result, assembly, span)),
            )
            for span in inner_spans(result, assembly)
        ],
    )


def driven_shown(driven: Driven | None) -> DrivenShown | None:
    return DrivenShown.model_validate(driven, from_attributes=True) if driven else None


def _mesh(part_id: str, part: EvaluatedPart) -> MeshShown:
    mesh = solid(part, CHORD).to_mesh()
    return MeshShown(
        part=part_id,
        # Slices of a bend lap by little; rounded off further, their surface would have holes.
        corners=np.round(mesh.vert_properties[:, :3], 6 if part.folded else 4).ravel().tolist(),
        triangles=mesh.tri_verts.ravel().tolist(),
    )


def _overall(document: Project, result: Result, assembly: Assembly) -> list[SpanShown]:
    if not assembly.groups:
        return []
    boxes = [extent(result.parts[copy.part], assembly.poses[copy]) for copy in assembly.groups[0]]
    low, high = np.min([box[0] for box in boxes], axis=0), np.max([box[1] for box in boxes], axis=0)
    spans = []
    for index, axis in enumerate("xyz"):
        # Heights stand at the back on the left, where the usual view has the drawing's side.
        start = [float(low[0]), float(high[1] if axis == "z" else low[1]), float(low[2])]
        end = list(start)
        end[index] = float(high[index])
        length = float(high[index] - low[index])
        driven = driven_shown(drives_overall(document, result, index, length))
        spans.append(SpanShown(axis=axis, start=start, end=end, length=length, driven=driven))
    return spans


def fit_shown(version: int, result: Result, clashes: list[Clash], order: AssemblyOrder, assembly: Assembly) -> FitShown:
    alone = [group[0] for group in assembly.groups if len(group) == 1]
    return FitShown(
        version=version,
        clashes=[
            ClashShown(
                a=_ref(clash.a),
                b=_ref(clash.b),
                volume=clash.volume,
                deep=clash.deep,
                middle=list(clash.middle),
                promised=clash.promised,
            )
            for clash in clashes
        ],
        steps=[
            StepShown(
                moving=[_ref(copy) for copy in step.moving],
                standing=[_ref(copy) for copy in step.standing],
                direction=list(step.direction),
                distance=step.distance,
                text=step_words(result, step),
            )
            for step in order.steps
        ],
        locked=[[_ref(copy) for copy in copies] for copies in order.locked],
        loose=[_ref(copy) for copy in alone] if len(assembly.groups) > len(alone) else [],
    )


def steps_of(fit: FitShown) -> list[AssemblyStep]:
    """The steps of the assembly, as they were found."""
    return [
        AssemblyStep(_copies(step.moving), _copies(step.standing), _direction(step.direction), step.distance)
        for step in fit.steps
    ]


def _copies(refs: list[CopyRef]) -> tuple[Copy, ...]:
    return tuple(Copy(ref.part, ref.number) for ref in refs)


def _direction(numbers: list[float]) -> tuple[float, float, float]:
    x, y, z = numbers
    return x, y, z


def _ref(copy: Copy) -> CopyRef:
    return CopyRef(part=copy.part, number=copy.number)
