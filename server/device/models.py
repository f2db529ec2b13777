"""What the simulated machine remembers: its profile, what lies on its bed, the file in it, and how far it has come."""

from __future__ import annotations

from typing import get_args

from django.db import models
from leannotch_core.device.at_work import MachineState


class Device(models.Model):
    """A machine, by the id of its profile: `AtWork`, with that ``profile`` and the sheet that is ``laid`` as JSON.

    One that was never given a file has no id. ``given`` is when it was, last; ``log`` is what has happened, a line
    each.
    """

    STATES = [(state, state) for state in get_args(MachineState)]

    machine = models.CharField(max_length=80, unique=True, default="")
    given = models.DateTimeField(null=True)
    profile = models.TextField(default="")
    laid = models.TextField(default="")
    origin_x = models.FloatField(default=0)
    origin_y = models.FloatField(default=0)
    name = models.CharField(max_length=120, default="")
    data = models.BinaryField(default=b"")
    doing = models.CharField(max_length=8, default="program")
    state = models.CharField(max_length=8, choices=STATES, default="off")
    gone = models.FloatField(default=0)
    since = models.DateTimeField(null=True)
    times = models.FloatField(default=10)
    cutter = models.IntegerField(default=1)
    log = models.TextField(default="")

    def __str__(self) -> str:
        return f"{self.state}: {self.name}"
