"""What the cutting service keeps: files that came in, what was chosen for them, orders, and the day that it is."""

from __future__ import annotations

from aside.deletable import Deletable
from django.conf import settings
from django.db import models


class Enquiry(Deletable):
    """A file that came in. ``seen`` and ``wanted`` are JSON; ``unit`` is what its numbers are taken for.

    ``owner`` is the maker who sent it, if one did who came in by a name.
    """

    name = models.CharField(max_length=120)
    data = models.BinaryField()
    unit = models.CharField(max_length=20, default="as the file says")
    seen = models.TextField()
    wanted = models.TextField(default="{}")
    version = models.PositiveIntegerField(default=1)
    created = models.DateTimeField(auto_now_add=True)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return self.name


class Order(models.Model):
    """An enquiry as it was ordered, on a ``day`` of the service's own; ``wanted``, ``quote`` and ``told`` are JSON.

    One that is sent twice with one ``key`` is one.
    """

    enquiry = models.ForeignKey(Enquiry, on_delete=models.PROTECT, related_name="orders")
    day = models.PositiveIntegerField()
    wanted = models.TextField()
    quote = models.TextField()
    told = models.TextField(default="[]")
    bent = models.BooleanField(default=False)
    key = models.CharField(max_length=64, blank=True, default="")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.UniqueConstraint(fields=["enquiry", "key"], condition=~models.Q(key=""), name="ordered_once")
        ]

    def __str__(self) -> str:
        return f"order {self.pk}"


class Day(models.Model):
    """The one day that it is, counted from 1; it goes on when somebody says so."""

    number = models.PositiveIntegerField(default=1)

    def __str__(self) -> str:
        return f"day {self.number}"
