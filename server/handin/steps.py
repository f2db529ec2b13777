"""Steps of a sheet in the queue, each taken once, whoever else is at it; and how those laid together part."""

from __future__ import annotations

from django.db import transaction
from django.utils import timezone
from leannotch_core.handin.steps import STEPS, StepName
from leannotch_core.said import Said
from people.log import note

from handin.models import HandIn, Together


class DeskRefuses(Said):
    """What cannot be done with a sheet of the queue; the message is a sentence to show."""


class SomebodyElse(DeskRefuses):
    """Somebody else has taken a step with it in between."""


def take_step(found: HandIn, version: int, name: StepName, log: str, **changes: object) -> HandIn:
    """Takes a step that its state allows, unless somebody else has taken one. Raises `DeskRefuses`."""
    step = STEPS[name]
    if step.alone:
        check_alone(found, name)
    made = found.together if step.leaves else None
    if step.leaves:
        changes["together"] = None
    what = f"{step.logged}: {log}" if log else step.logged
    fresh = {**changes, "state": step.after, "version": version + 1, "log": logged(found.log, what)}
    with transaction.atomic():
        done = HandIn.objects.filter(pk=found.pk, version=version, state__in=step.before).update(**fresh)
        now = HandIn.objects.get(pk=found.pk)
        if done:
            note("sheet", to=called(now), more=what, slug=now.project)
        else:
            last = now.log.strip().rpartition("\n")[2]
            if now.version != version:
                raise SomebodyElse(f"Somebody else has just been at number {now.pk} ({last}); look at it again.")
            raise DeskRefuses(f"Number {now.pk} is {now.state}; that cannot be done with it now.")
        if made is not None:
            part(made, f"number {now.pk} is {now.state}")
    return now


def called(found: HandIn) -> str:
    """What a sheet of the queue is called among other things of the workshop."""
    return f"{found.pk}, {found.owner}, {found.project_name}"


def logged(log: str, what: str) -> str:
    return f"{log}{timezone.localtime():%Y-%m-%d %H:%M} {what}\n"


def check_alone(found: HandIn, step: StepName) -> None:
    """Raises `DeskRefuses` of one that is laid with others: they go all at once."""
    if found.together_id:
        raise DeskRefuses(f"Number {found.pk} is laid together with others: {step} all of them, or take them apart.")


def part(made: Together, why: str) -> None:
    """Lays all of them alone again. Raises `DeskRefuses` of what is released: it is called back first."""
    for one in made.members.all():
        take_step(one, one.version, "lay alone", why, together=None, ticks="[]")
    made.delete()
