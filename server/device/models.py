"""What the simulated machine remembers: its profile, what lies on its bed, the file in it, and how far it has come."""

from __future__ import annotations

from django.db import models


class Device(models.Model):
    """The one machine there is.

    ``gone`` is how long (s) the run had gone on when it was last heard of, which was ``since`` if it goes on now, at
    ``times`` real time. ``cutter`` is the number of the one that is in the spindle, as the program counts. ``laid`` is
    the sheet as JSON, ``log`` what has happened, a line each.
    """

    STATES = [(s, s) for s in ("off", "ready", "running", "paused", "done", "alarm", "stopped")]

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
