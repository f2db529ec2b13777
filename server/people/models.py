"""What is kept of people: what they did."""

from __future__ import annotations

from django.db import models


class Deed(models.Model):
    """That somebody did something (``kind``) ``to`` something, with ``more`` of it; ``slug`` where that is a project.

    ``who`` is a name, which outlives its account; nothing for the operator and for those who came in without a name.
    """

    when = models.DateTimeField(auto_now_add=True)
    who = models.CharField(max_length=60, blank=True)
    kind = models.CharField(max_length=24)
    to = models.CharField(max_length=120, blank=True)
    more = models.CharField(max_length=400, blank=True)
    slug = models.CharField(max_length=80, blank=True)

    def __str__(self) -> str:
        return f"{self.who}: {self.kind} {self.to}"
