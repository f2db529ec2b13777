"""What an edit changed of what is shown of a project, so that its answer says no more than that."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import TypeVar

from shown.project import Listed, ProjectChanges, Thing

from workshop.models import StoredProject
from workshop.revisions import current_id, document_of, result_of
from workshop.state import ledger_of, ledger_row, parts_of, state_of

V = TypeVar("V")


def changes(project: StoredProject, since: int, before: int, said: str = "") -> ProjectChanges:
    """The changes of a project since it stood at a version, which was the revision ``before``."""
    now = current_id(project)
    document, result = document_of(now), result_of(now)
    ledger = _different(ledger_of(result_of(before)), ledger_of(result))
    return ProjectChanges(
        **state_of(project),
        since=since,
        said=said,
        document=document.model_copy(update={"parts": [], "joints": []}),
        document_parts=_listed(document_of(before).parts, document.parts),
        document_joints=_listed(document_of(before).joints, document.joints),
        parts=_listed(parts_of(before).values(), parts_of(now).values()),
        ledger={joint: [ledger_row(result, mating) for mating in rows or ()] for joint, rows in ledger.items()},
        values=_different(result_of(before).values, result.values),
    )


def _listed(before: Iterable[Thing], now: Iterable[Thing]) -> Listed[Thing]:
    old, now = {thing.id: thing for thing in before}, list(now)
    return Listed(ids=[thing.id for thing in now], changed=[thing for thing in now if old.get(thing.id) != thing])


def _different(before: Mapping[str, V], now: Mapping[str, V]) -> dict[str, V | None]:
    """What is new or different, and None for what is gone."""
    gone = {key: None for key in before if key not in now}
    return gone | {key: value for key, value in now.items() if before.get(key) != value}
