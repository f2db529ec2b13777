"""Whose a project is, and what others may do with it: nothing, look, take a copy, or work on it too."""

from __future__ import annotations

import re

from django.db.models import Q, QuerySet
from people.asking import maker_asking
from pydantic import TypeAdapter
from shown.projects import Shared

from workshop.models import StoredProject

#: Looking at a project has these worked out, which changes nothing in it.
_LOOKS = re.compile("/(?:fit|prove|there)")
#: What takes the whole of it along.
_TAKES = re.compile("/(?:file|sheets/.*|own-starter|duplicate)", re.DOTALL)
#: What is for its maker alone.
_OWN = re.compile("/(?:shared|owner)")


def seen(projects: QuerySet[StoredProject]) -> QuerySet[StoredProject]:
    """Those of some projects that whoever asks may see."""
    maker = maker_asking.get()
    return projects if maker is None else projects.filter(Q(owner=maker) | ~Q(shared="nobody"))


_SHARED: TypeAdapter[Shared] = TypeAdapter(Shared)


def shared_as(project: StoredProject) -> Shared:
    """What others may do with it."""
    return _SHARED.validate_python(project.shared)


def share(project: StoredProject, shared: Shared) -> None:
    """Lets others do so much with it from now on."""
    project.shared = shared
    project.save(update_fields=["shared"])


def taken_on(project: StoredProject, copy: StoredProject) -> None:
    """Notes of a copy what it was begun from, where that is another's."""
    if not is_own(project):
        copy.begun_from = project
        copy.save(update_fields=["begun_from"])


def sees(project: StoredProject) -> bool:
    """Whether whoever asks may see it."""
    return is_own(project) or project.shared != "nobody"


def is_own(project: StoredProject) -> bool:
    """Whether whoever asks may do all with it."""
    maker = maker_asking.get()
    return maker is None or project.owner_id == maker


def may(project: StoredProject, method: str, rest: str) -> bool:
    """Whether whoever asks may make a call of a project that they see; ``rest`` is the call's path behind its slug."""
    if is_own(project) or project.shared == "work":
        return is_own(project) or not (_OWN.fullmatch(rest) or (method == "DELETE" and not rest))
    if _TAKES.fullmatch(rest):
        return project.shared == "copy"
    return method == "GET" or bool(_LOOKS.fullmatch(rest))


def refusal(project: StoredProject) -> str:
    """What is said where it may not be."""
    whose = project.owner.username if project.owner else "the workshop"
    does = {"look": "to look at", "copy": "to look at and to copy", "work": "to work on, not to give away or delete"}
    mend = ": make a copy, and change that" if project.shared == "copy" else ""
    return f"{project.name} belongs to {whose}, and is shared {does.get(project.shared, 'with nobody')}{mend}."
