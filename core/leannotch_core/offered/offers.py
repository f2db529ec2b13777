"""All joints that are offered in a project."""

from __future__ import annotations

from collections.abc import Iterator

from ..assembly.poses import assemble
from ..evaluate import Result, evaluate
from ..project.project import Project
from .mating import mating
from .offer import JointOffer, OfferKey, places_of
from .parted import parted
from .stood import refitted, stood


def offers(project: Project, result: Result) -> dict[OfferKey, JointOffer]:
    """Joints that would hold brought parts, by what they join; tabs and slots that mate come first."""
    taken = {places_of(joint) for joint in project.joints}
    found: dict[tuple[str, frozenset[tuple[str, str]]], JointOffer] = {}
    for offer in _all(project, result):
        places = places_of(offer.joint)
        if places not in taken:
            # Two edges that meet at a corner are seen from either of them.
            found.setdefault((offer.joint.kind, places), offer)
    return {offer.key: offer for offer in found.values()}


def joined(project: Project, key: OfferKey) -> Project | None:
    """The project with the joint that is offered by that key; None where it is not offered any more."""
    result = evaluate(project)
    offer = offers(project, result).get(key)
    if offer is None:
        return None
    joints = project.joints
    for grown in offer.grown:
        joints = refitted(project, result, assemble(project, result), grown)
    return offer.taken(project.model_copy(update={"joints": joints}))


#: Joining all ends after so many joints.
_MOST = 400


def all_joined(project: Project) -> Project:
    """The project with a joint at every place where one is offered: of several for one place, the first.

    Equal plates that come out different are parts of their own.
    """
    project = parted(project)
    for _ in range(_MOST):
        key = next(iter(offers(project, evaluate(project))), None)
        with_joint = joined(project, key) if key else None
        if with_joint is None:
            break
        project = with_joint
    return project


def _all(project: Project, result: Result) -> Iterator[JointOffer]:
    yield from mating(project)
    if any(part.stands for part in project.parts):
        yield from stood(project, result, assemble(project, result))
