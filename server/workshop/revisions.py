"""Edits, undo and redo: each is one transaction, and an answer means that it is stored."""

from __future__ import annotations

from functools import lru_cache

from django.db import transaction
from django.utils.text import slugify
from leannotch_core.commands import CannotApply, Command, RecordCoupon, apply
from leannotch_core.document import Project as Document
from leannotch_core.evaluate import Result, evaluate
from leannotch_core.findings import Finding

from workshop import library
from workshop.models import Project, Revision


class OutOfDate(Exception):  # noqa: N818 - it is a state, not a fault
    """The edit was made on an older version than the stored one; nothing was changed."""


class Refused(Exception):  # noqa: N818 - it is an answer
    """The edit would leave something that cannot be built; nothing was changed."""

    def __init__(self, message: str, findings: list[Finding]) -> None:
        super().__init__(message)
        self.findings = findings


@lru_cache(maxsize=64)
def document_of(revision_id: int) -> Document:
    """A stored document; revisions never change, so a parsed one stays good."""
    return Document.model_validate_json(Revision.objects.values_list("document", flat=True).get(id=revision_id))


@lru_cache(maxsize=64)
def result_of(revision_id: int) -> Result:
    return evaluate(document_of(revision_id))


def current_id(project: Project) -> int:
    assert project.current_id is not None, "a project is never without a revision"
    return project.current_id


def create(document: Document, slug: str = "") -> Project:
    """Stores a new project under a slug of its name that is free."""
    with transaction.atomic():
        base = slug or slugify(document.name)[:70] or "project"
        free, number = base, 2
        while Project.objects.filter(slug=free).exists():
            free, number = f"{base}-{number}", number + 1
        project = Project.objects.create(slug=free, name=document.name)
        _move_to(project, _store(project, document, "Begun"))
    return project


def edit(slug: str, version: int | None, command: Command) -> Project:
    """Applies a command on the version it was made for; None means whatever is current.

    Raises `OutOfDate`, `Refused` or `CannotApply`.
    """
    with transaction.atomic():
        project = _locked(slug, version)
        before = document_of(current_id(project))
        after = apply(before, command)
        if after == before:
            return project
        result = evaluate(after)
        _refuse_new_errors(result, current_id(project))
        if isinstance(command, RecordCoupon):
            # What a machine does to a stock is worth knowing everywhere.
            library.keep(next(stock for stock in after.stocks if stock.id == command.stock))
        revision = _store(project, after, command.label(before)[:200])
        project.version += 1
        project.name = after.name
        _move_to(project, revision)
    return project


def undo(slug: str, version: int) -> Project:
    """Goes back to the revision before. Raises `OutOfDate` or `CannotApply`."""
    with transaction.atomic():
        project = _locked(slug, version)
        parent = project.current.parent if project.current else None
        if parent is None:
            raise CannotApply("There is nothing to undo.")
        return _step(project, parent)


def redo(slug: str, version: int) -> Project:
    """Goes forward to the revision that was undone last. Raises `OutOfDate` or `CannotApply`."""
    with transaction.atomic():
        project = _locked(slug, version)
        child = Revision.objects.filter(parent_id=project.current_id).first()
        if child is None:
            raise CannotApply("There is nothing to redo.")
        return _step(project, child)


def _step(project: Project, revision: Revision) -> Project:
    project.version += 1
    project.name = document_of(revision.id).name
    _move_to(project, revision)
    return project


def _locked(slug: str, version: int | None) -> Project:
    """The project, read inside a writing transaction, so that nobody else changes it meanwhile."""
    project = Project.objects.select_related("current__parent").get(slug=slug)
    if version is not None and project.version != version:
        raise OutOfDate
    return project


def _store(project: Project, document: Document, label: str) -> Revision:
    return Revision.objects.create(
        project=project, parent_id=project.current_id, label=label, document=document.model_dump_json()
    )


def _move_to(project: Project, revision: Revision) -> None:
    project.current = revision
    project.save()


def _refuse_new_errors(result: Result, before: int) -> None:
    """An edit may leave errors that were there already, but not make one."""
    if not result.errors:
        return
    known = {finding.text for finding in result_of(before).errors}
    fresh = [finding for finding in result.errors if finding.text not in known]
    if fresh:
        raise Refused(fresh[0].text, fresh)
