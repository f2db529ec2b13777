"""What every drawn outline must be: closed to the last bit, and run round once."""

from __future__ import annotations

from ...geometry.chords import as_line
from ...geometry.loop import Loop
from ...geometry.segment import Segment
from ...said import Said


def joined_ends(segments: list[Segment]) -> tuple[Segment, ...]:
    """The segments of a closed line, each begun just where the one before ends."""
    return tuple(s.between(segments[i - 1].end, s.end) for i, s in enumerate(segments))


class Crossing(Said):
    """A drawn outline that crosses itself; the message tells where, in mm from its middle."""


def check_simple(loop: Loop) -> None:
    """Raises `Crossing` where a closed line crosses itself."""
    line = as_line(loop.segments, 0.01)
    if not line.is_simple:
        raise Crossing("its outline crosses itself; move a point so that it runs round once")
