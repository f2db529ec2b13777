"""What of the workshop's a maker may reach who came in by a name: their own, and what others share, as far as they do.

Everything that belongs to a project or to a maker is found by the path of the call, so that no call is forgotten:
tests walk the whole schema as another maker.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import NamedTuple

from bureau.models import Enquiry
from people.asking import maker_asking
from workshop import whose
from workshop.models import BroughtFile, Run, StoredProject


class Refused(NamedTuple):
    """Why a call is not answered: its status, and a sentence."""

    status: int
    message: str


def _by_slug(slug: str) -> StoredProject | None:
    return StoredProject.objects.select_related("owner").filter(slug=slug).first()


def _of_brought(number: str) -> StoredProject | None:
    found = BroughtFile.objects.select_related("project__owner").filter(pk=_plain(number)).first()
    return found.project if found else None


def _of_run(number: str) -> StoredProject | None:
    found = Run.objects.select_related("project__owner").filter(pk=_plain(number)).first()
    return found.project if found else None


def _plain(number: str) -> int:
    """The number that a part of a path is. Whoever writes it with signs, spaces or line ends, as the calls themselves
    would still read it, has nothing: 0.
    """
    return int(number) if re.fullmatch("[0-9]{1,18}", number) else 0


#: Paths that lead to a project, and how it is found. What is left of the path, whatever that is, says what is asked
#: of it. Each is matched from end to end, line ends and all.
_LEAD: tuple[tuple[re.Pattern[str], Callable[[str], StoredProject | None]], ...] = (
    (re.compile("/api/projects/([^/]+)(.*)", re.DOTALL), _by_slug),
    (re.compile("/api/deleted/([^/]+)(.*)", re.DOTALL), _by_slug),
    (re.compile("/api/brought/([^/]+)(.*)", re.DOTALL), _of_brought),
    (re.compile("/api/runs/([^/]+)(.*)", re.DOTALL), _of_run),
)
#: What looks like a project called “open”, and brings one in from a file.
_OPEN = ("POST", "/api/projects/open")
_SERVICE = re.compile("/api/service/files/([^/]+)(.*)", re.DOTALL)
#: What the workshop keeps for everybody is thrown away by the operator alone.
_KEPT = re.compile("/api/(?:own-starters|shelf)/.*", re.DOTALL)

_NOT_THERE = Refused(404, "There is no such thing here, or its maker shares it with nobody.")


def refused(method: str, path: str) -> Refused | None:
    """Why the maker who asks gets no answer to a call; None where they do, and where nobody by a name asks."""
    maker = maker_asking.get()
    if maker is None or (method, path) == _OPEN:
        return None
    if method == "DELETE" and _KEPT.fullmatch(path):
        return Refused(403, "That is kept for everybody; the operator takes it away.")
    if found := _SERVICE.fullmatch(path):
        own = Enquiry.objects.filter(pk=_plain(found[1]), owner=maker).exists()
        return None if own else _NOT_THERE
    for pattern, project_of in _LEAD:
        if found := pattern.fullmatch(path):
            return _refused(project_of(found[1]), method, found[2], path)
    return None


def _refused(project: StoredProject | None, method: str, rest: str, path: str) -> Refused | None:
    if project is None or not whose.sees(project):
        return _NOT_THERE
    if path.startswith("/api/deleted/"):
        return None if whose.is_own(project) else _NOT_THERE
    return None if whose.may(project, method, rest) else Refused(403, whose.refusal(project))
