"""Sheets of several makers laid together on one: released, cut and called back all at once, or taken apart."""

from __future__ import annotations

import json
from collections.abc import Sequence

from django.db import transaction
from leannotch_core.document.sheet import CopyOf
from leannotch_core.handin.together import Handed, laid_together
from leannotch_core.project.project import read_project, write_project

from handin import back
from handin.desk import (
    LookedSheet,
    check_is_free,
    check_on_sheet,
    count_cut,
    looked_as,
    project_of,
    ready_to_take,
    take,
)
from handin.models import HandIn, Together
from handin.steps import DeskRefuses, part, take_step


def lay_together(found: Sequence[HandIn], versions: Sequence[int]) -> Together:
    """Lays several waiting sheets on one. Raises `DeskRefuses`."""
    if len(found) < 2:
        raise DeskRefuses("Choose two sheets or more to lay together.")
    on_one = laid_together([_handed(one) for one in found])
    numbers = ", ".join(str(one.pk) for one in found)
    with transaction.atomic():
        made = Together.objects.create(
            document=write_project(on_one.project).decode(), came_from=json.dumps(on_one.came_from)
        )
        for one, version in zip(found, versions, strict=True):
            take_step(one, version, "lay together", numbers, together=made, ticks="[]")
    return made


def take_apart(made: Together) -> None:
    """Lays all of them alone again. Raises `DeskRefuses` of what is released: it is called back first."""
    with transaction.atomic():
        part(made, "taken apart")


def call_back_together(made: Together) -> None:
    """Has all of them wait again, still laid together. Raises `DeskRefuses`."""
    with transaction.atomic():
        for one in made.members.all():
            take_step(one, one.version, "call back", "to the desk, with others", ticks="[]")


def release_together(made: Together) -> LookedSheet:
    """Releases all of them at once; what is looked at is their one sheet. Raises `DeskRefuses`."""
    looked = looked_together(made)
    bad = [check for check in looked.checks if not check.good and check.code in ("proof", "bed", "doubles")]
    if bad:
        raise DeskRefuses(f"It cannot be cut so. {bad[0].what}: {bad[0].told}.")
    taking = ready_to_take(looked, f"together-{made.pk}.{looked.kind}")
    with transaction.atomic():
        for one in made.members.all():
            take_step(one, one.version, "release", "to the machine, with others")
        check_is_free(looked.ready.machine.name, [one.pk for one in made.members.all()])
        take(taking)
    return looked


def cut_together(made: Together, failed: Sequence[CopyOf], why: str = "") -> None:
    """Tells that they were cut; parts that failed, and why, wait again with their own sheet, and only they.

    Raises `DeskRefuses`.
    """
    check_on_sheet(read_project(made.document), 0, failed)
    came_from = json.loads(made.came_from)
    members = list(made.members.all())
    again: dict[int, list[CopyOf]] = {one.pk: [] for one in members}
    for copy in failed:
        number, part = came_from.get(copy.part, (0, ""))
        if number not in again:
            raise DeskRefuses("These were laid together by an older Lean Notch; call them back and take them apart.")
        again[number].append(CopyOf(part=part, copy_number=copy.copy_number))
    # Those of it that failed before lay on a sheet that was counted then.
    counted = any(json.loads(one.failed) for one in members)
    document = made.document
    with transaction.atomic():
        for one in members:
            count_cut(one, one.version, [_own(one, copy) for copy in again[one.pk]], why)
            if again[one.pk]:
                HandIn.objects.filter(pk=one.pk).update(together=None)
        if not made.members.exists():
            made.delete()
    if not counted:
        back.joint_to_the_shelf(document)


def _own(found: HandIn, copy: CopyOf) -> CopyOf:
    """A copy of a sheet that was laid together, as it lies on the sheet that was handed in."""
    on_it = [
        p for p in project_of(found).layout.placements if p.sheet == found.sheet and p.part == copy.part and not p.cut
    ]
    return CopyOf(part=copy.part, copy_number=on_it[copy.copy_number - 1].copy_number)


def _handed(found: HandIn) -> Handed:
    return Handed(found.pk, " ".join(filter(None, (found.owner, found.group))), project_of(found), found.sheet)


def looked_together(made: Together) -> LookedSheet:
    return looked_as(made.document, "", "[]", 0)
