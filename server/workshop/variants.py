"""Variants of a project: they follow its design whenever they are looked at."""

from __future__ import annotations

from django.db import transaction
from leannotch_core.document.edit import CannotApply
from leannotch_core.edits.command import Command, apply
from leannotch_core.project.variants import Own, following, own_of

from workshop.models import StoredProject
from workshop.revisions import create, current_id, document_of, made_ready, put_in_place


def begin(design: StoredProject, name: str, change: Command | None = None) -> StoredProject:
    """A new variant of a project, as its design is now, or with a change of what a variant has of its own."""
    if design.variant_of:
        raise CannotApply(f"{design.name} is a variant itself; make another of {design.variant_of.name}.")
    alike = document_of(current_id(design)).model_copy(update={"name": name})
    document = apply(alike, change) if change else alike
    with transaction.atomic():
        variant = create(document)
        variant.variant_of, variant.followed_id = design, design.current_id
        variant.own = own_of(alike, document, Own()).model_dump_json()
        variant.save()
    return variant


def own(project: StoredProject) -> Own:
    return Own.model_validate_json(project.own) if project.own else Own()


def follow(project: StoredProject) -> StoredProject:
    """The project; where it is a variant, as its design is now."""
    design = project.variant_of
    if design is None or design.current_id == project.followed_id:
        return project
    before = document_of(current_id(project))
    after = following(document_of(current_id(design)), before, own(project))
    ready = made_ready(project, after) if after != before else None
    with transaction.atomic():
        now = StoredProject.objects.select_related("current", "variant_of").get(id=project.id)
        quick = now.version == project.version
        if quick and ready:
            put_in_place(now, ready, f"Follows {design.name}")
        if quick:
            now.followed_id = design.current_id
            now.save()
    # Somebody may have been quicker: what they have left follows too.
    return now if quick else follow(now)
