"""What the queue keeps: sheets as they were handed in, those laid together, and the words that open it to others."""

from __future__ import annotations

from aside.deletable import Deletable
from django.db import models
from leannotch_core.handin.steps import STATES


class Together(models.Model):
    """Several sheets that were laid on one; ``document`` is that sheet's project as JSON.

    ``came_from`` says of each of its parts, as JSON, which number and which part of that it is.
    """

    document = models.TextField()
    came_from = models.TextField(default="{}")
    created = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"laid together {self.pk}"


class HandIn(Deletable):
    """A sheet as it was handed in: ``document`` is the project as it was, and nothing changes it any more.

    ``ticks`` are the checks that the operator has ticked, as JSON; ``machine`` a profile of the operator's own choice.
    ``failed`` are the copies that are to be cut again, as JSON; ``facts`` what is listed of it. One that was handed in
    anew is ``replaced_by`` the new one. ``version`` grows with every step, so that two operators never do one thing
    twice. ``key`` is what its page named the order to hand in, so that one sent twice is one; ``made_by`` is the
    session that it came from.
    """

    owner = models.CharField(max_length=60)
    group = models.CharField(max_length=60, blank=True)
    due = models.DateField(null=True)
    project = models.CharField(max_length=80)
    project_name = models.CharField(max_length=80)
    project_version = models.PositiveIntegerField()
    document = models.TextField()
    sheet = models.PositiveIntegerField()
    state = models.CharField(max_length=12, choices=[(state, state) for state in STATES], default="waiting")
    why = models.CharField(max_length=400, blank=True)
    ticks = models.TextField(default="[]")
    machine = models.TextField(blank=True)
    failed = models.TextField(default="[]")
    facts = models.TextField(default="{}")
    replaced_by = models.ForeignKey("self", null=True, on_delete=models.SET_NULL, related_name="replaces")
    together = models.ForeignKey(Together, null=True, on_delete=models.SET_NULL, related_name="members")
    version = models.PositiveIntegerField(default=1)
    created = models.DateTimeField(auto_now_add=True)
    log = models.TextField(default="")
    key = models.CharField(max_length=64, blank=True, default="")
    made_by = models.CharField(max_length=64, blank=True, default="")

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["key", "project", "sheet"], condition=~models.Q(key=""), name="one_order")
        ]

    def __str__(self) -> str:
        return f"{self.pk}, {self.owner}"


class WorkedOut(models.Model):
    """A check, by its code, that is taken as it was worked out where that is good; all others are made by hand."""

    code = models.CharField(max_length=40, primary_key=True)

    def __str__(self) -> str:
        return self.code


class Guesses(models.Model):
    """How many words were tried from an ``address`` and let nobody in, ``since`` when; nothing for those of all."""

    address = models.CharField(max_length=64, primary_key=True)
    tried = models.PositiveIntegerField(default=0)
    since = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.address}: {self.tried}"


class Word(models.Model):
    """A word that lets somebody in, hashed: ``operator`` to all of it, ``maker`` to hand in."""

    role = models.CharField(max_length=8, primary_key=True, choices=[("operator", "operator"), ("maker", "maker")])
    hashed = models.CharField(max_length=200)

    def __str__(self) -> str:
        return self.role
