"""A project as the shell names it: by its slug, or as a saved file."""

from __future__ import annotations

import sys
from pathlib import Path

from django.core.management import call_command
from leannotch_core.project.project import Project, read_project
from leannotch_core.said import Said
from workshop.models import StoredProject
from workshop.revisions import current_id, document_of
from workshop.variants import follow


def make_ready() -> None:
    """The data folder as the program wants it, with the demo in an empty one; what is told of it is no answer."""
    call_command("prepare", stdout=sys.stderr)


class NoProject(Said):
    """A name that is no project."""


def document_named(name: str) -> Project:
    """The document of a project by its slug, or in a saved file. Raises `NoProject`, or `NotAProject` of a file."""
    make_ready()
    project = StoredProject.objects.filter(slug=name, deleted=None).select_related("variant_of").first()
    if project:
        return document_of(current_id(follow(project)))
    path = Path(name)
    if not path.is_file():
        known = ", ".join(StoredProject.objects.filter(deleted=None).values_list("slug", flat=True))
        raise NoProject(f"“{name}” is neither a project ({known}) nor a file")
    return read_project(path.read_bytes())
