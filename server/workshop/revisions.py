"""Edits, undo and redo: worked out first, then one short transaction each; an answer means that it is stored."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import NamedTuple

from django.db import transaction
from django.utils.text import slugify
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.limits import LARGEST_FILE
from leannotch_core.edits.command import Command, apply
from leannotch_core.evaluate import Result, evaluate
from leannotch_core.facts.findings import Finding
from leannotch_core.project.project import NotAProject, Project, read_back, read_project
from leannotch_core.project.variants import ChangesDesign, Own, own_of
from leannotch_core.remembered import remembered
from people.asking import maker_asking

from workshop.models import Ground, Revision, StoredProject
from workshop.packed import Damaged, Packed, pack, unpack
from workshop.proposed import keep_or_propose


class OutOfDate(Exception):  # noqa: N818 - it is a state, not a fault
    """The edit was made on an older version than the stored one; nothing was changed."""


class EditRefused(Exception):  # noqa: N818 - it is an answer
    """The edit would leave something that cannot be built; nothing was changed."""

    def __init__(self, message: str, findings: list[Finding]) -> None:
        super().__init__(message)
        self.findings = findings


class Unreadable(Exception):  # noqa: N818 - it is a state
    """A stored document that cannot be read: ``what`` is wrong, and in the message also where its mend is."""

    def __init__(self, what: str) -> None:
        super().__init__(f"{what} The projects page offers its last state that can be opened.")
        self.what = what


@dataclass(slots=True)
class _Known:
    """What was worked out of a revision. Revisions never change, so it stays good."""

    document: Project | None = None
    result: Result | None = None


@remembered(most=64)
def known(revision_id: int) -> _Known:
    return _Known()


def document_of(revision_id: int) -> Project:
    """A stored document. Raises `Unreadable`."""
    found = known(revision_id)
    if found.document is None:
        try:
            found.document = read_project(unpack(revision_id))
        except (NotAProject, Damaged) as error:
            raise Unreadable(f"This project cannot be opened as it is stored: {error}") from error
    return found.document


def result_of(revision_id: int) -> Result:
    found = known(revision_id)
    if found.result is None:
        found.result = evaluate(document_of(revision_id))
    return found.result


def current_id(project: StoredProject) -> int:
    """The revision that a project stands at. Raises `Unreadable`."""
    if project.current_id is None:
        raise Unreadable("This project has lost its current state.")
    return project.current_id


def create(document: Project, slug: str = "") -> StoredProject:
    """Stores a new project under a slug of its name that is free."""
    document = read_back(document)
    packed = _packed(None, document)
    with transaction.atomic():
        base = slug or slugify(document.name)[:70] or "project"
        free, number = base, 2
        while StoredProject.objects.filter(slug=free).exists():
            free, number = f"{base}-{number}", number + 1
        project = StoredProject.objects.create(slug=free, name=document.name, owner_id=maker_asking.get())
        _move_to(project, _store(project, packed, "Begun"))
    return project


def _nothing(project: StoredProject) -> None:
    """What is stored beside most steps."""


def edit(
    slug: str, version: int | None, command: Command, beside: Callable[[StoredProject], None] = _nothing
) -> StoredProject:
    """Applies a command on the version it was made for; None means whatever is current.

    All that takes time is done before anything is locked: other projects never wait for it, and an edit of this one
    that was quicker is not overwritten. ``beside`` stores what goes with the step, in its transaction. Raises
    `OutOfDate`, `EditRefused` or `CannotApply`.
    """
    while True:
        project = _at(slug, version)
        seen, before_id = project.version, current_id(project)
        before = document_of(before_id)
        after = apply(before, command)
        if after == before:
            return project
        result = evaluate(after)
        _refuse_new_errors(result, before_id)
        own = _own_after(project, before, after)
        kept = command.stock_to_keep(after)
        packed = _packed(project.current, after)
        with transaction.atomic():
            project = _at(slug, None)
            if project.version == seen:
                revision = _store(project, packed, command.label(before)[:200])
                project.name, project.own = after.name, own
                _step_to(project, revision)
                if kept:
                    keep_or_propose(kept)
                beside(project)
                break
        if version is not None:
            raise OutOfDate
    known(revision.id).document, known(revision.id).result = after, result
    return project


class Ready(NamedTuple):
    """A document that is ready to be the next state of a project, and its name."""

    packed: Packed
    name: str


def made_ready(project: StoredProject, document: Project) -> Ready:
    """What takes time of `put_in_place`: done before anything is locked."""
    return Ready(_packed(project.current, read_back(document)), document.name)


def put_in_place(project: StoredProject, ready: Ready, label: str) -> None:
    """Makes a document the next state of a project that is held in a transaction."""
    revision = _store(project, ready.packed, label[:200])
    project.name = ready.name
    _step_to(project, revision)


def put(slug: str, version: int, document: Project, label: str) -> StoredProject:
    """Makes a document the next state of a project; all that was there can be had back. Raises `OutOfDate`."""
    ready = made_ready(_at(slug, version), document)
    with transaction.atomic():
        project = _at(slug, version)
        project.followed = None
        put_in_place(project, ready, label)
    return project


def _own_after(project: StoredProject, before: Project, after: Project) -> str:
    """What a variant has of its own after an edit, as JSON. Raises `CannotApply` where that would change its design."""
    if project.variant_of is None:
        return ""
    own = Own.model_validate_json(project.own) if project.own else Own()
    try:
        return own_of(before, after, own).model_dump_json()
    except ChangesDesign as error:
        raise CannotApply(
            f"This is a variant of {project.variant_of.name} and follows its design: change the {error} there, and all "
            "variants follow. What a stock measures, the values of named sizes, layout and files are its own."
        ) from error


def undo(slug: str, version: int, beside: Callable[[StoredProject], None] = _nothing) -> StoredProject:
    """Goes back to the revision before; ``beside`` as for `edit`. Raises `OutOfDate` or `CannotApply`."""
    project = _at(slug, version)
    parent = project.current.parent if project.current else None
    if parent is None:
        raise CannotApply("There is nothing to undo.")
    return _moved(slug, version, parent, beside)


def redo(slug: str, version: int, beside: Callable[[StoredProject], None] = _nothing) -> StoredProject:
    """Goes forward to the revision that was undone last, as `undo` goes back."""
    project = _at(slug, version)
    child = Revision.objects.filter(parent_id=project.current_id).first()
    if child is None:
        raise CannotApply("There is nothing to redo.")
    return _moved(slug, version, child, beside)


def last_readable(project: StoredProject) -> Revision | None:
    """The newest revision of a project that can be read, other than the one it stands at."""
    for revision_id in project.revisions.values_list("id", flat=True):
        if revision_id == project.current_id:
            continue
        try:
            document_of(revision_id)
        except Unreadable:
            continue
        return Revision.objects.get(id=revision_id)
    return None


def recover(slug: str) -> StoredProject:
    """Takes a project that cannot be read back to its last revision that can. Raises `CannotApply`."""
    project = _at(slug, None)
    revision = last_readable(project)
    if revision is None:
        raise CannotApply(f"No state of “{project.name}” can be read.")
    return _moved(slug, project.version, revision)


def _moved(
    slug: str, version: int, revision: Revision, beside: Callable[[StoredProject], None] = _nothing
) -> StoredProject:
    name = document_of(revision.id).name
    with transaction.atomic():
        project = _at(slug, version)
        # A variant follows its design anew, whatever it goes back to.
        project.name, project.followed = name, None
        _step_to(project, revision)
        beside(project)
    return project


def _at(slug: str, version: int | None) -> StoredProject:
    """The project at a version. Raises `OutOfDate` where it stands at another."""
    project = StoredProject.objects.select_related("current__parent").get(slug=slug, deleted=None)
    if version is not None and project.version != version:
        raise OutOfDate
    return project


def _packed(beside: Revision | None, document: Project) -> Packed:
    """A document ready to be stored after a revision. Raises `CannotApply` where it is too large."""
    text = document.model_dump_json()
    if len(text.encode()) > LARGEST_FILE:
        raise CannotApply(
            f"The project would have {len(text) / 1e6:.1f} MB; it has at most {LARGEST_FILE / 1e6:g} MB. Divide it."
        )
    return pack(text, beside)


def _store(project: StoredProject, packed: Packed, label: str) -> Revision:
    ground = packed.ground_id or Ground.objects.create(project=project, whole=packed.whole).id
    return Revision.objects.create(
        project=project,
        parent_id=project.current_id,
        label=label,
        ground_id=ground,
        difference=packed.difference,
        by_id=maker_asking.get(),
    )


def _step_to(project: StoredProject, revision: Revision) -> None:
    project.version += 1
    _move_to(project, revision)


def _move_to(project: StoredProject, revision: Revision) -> None:
    project.current = revision
    project.save()


def _refuse_new_errors(result: Result, before: int) -> None:
    """An edit may leave errors that were there already, but not make one."""
    if not result.errors:
        return
    told = {finding.text for finding in result_of(before).errors}
    fresh = [finding for finding in result.errors if finding.text not in told]
    if fresh:
        raise EditRefused(fresh[0].text, fresh)
