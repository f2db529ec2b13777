"""Lines and arcs as rows of figures: what is asked of thousands of segments is asked of all at once."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from .segment import Arc, Segment

Points = npt.NDArray[np.complex128]
Numbers = npt.NDArray[np.float64]
Indices = npt.NDArray[np.intp]
Flags = npt.NDArray[np.bool_]


class SegmentRows:
    """One row for each segment. ``sweep`` is signed, in radians; a line's sweep, radius and centre are 0.

    ``bent`` is whether there is an arc among them: without one, half of the work is left out.
    """

    __slots__ = ("arc", "bent", "ccw", "centre", "end", "radius", "start", "sweep")

    def __init__(self, start: Points, end: Points, centre: Points, ccw: Flags, arc: Flags) -> None:
        self.start, self.end, self.centre, self.ccw, self.arc = start, end, centre, ccw, arc
        self.bent = bool(arc.any())
        self.radius: Numbers = np.zeros(len(start))
        self.sweep: Numbers = self.radius
        if self.bent:
            self.radius = np.where(arc, np.abs(start - centre), 0.0)
            angle = np.angle((end - centre) * (start - centre).conjugate())
            up, down = np.where(angle > 0, angle, angle + 2 * np.pi), np.where(angle < 0, angle, angle - 2 * np.pi)
            self.sweep = np.where(arc, np.where(ccw, up, down), 0.0)

    @classmethod
    def of(cls, segments: Sequence[Segment]) -> SegmentRows:
        return cls(
            np.array([segment.start for segment in segments]),
            np.array([segment.end for segment in segments]),
            np.array([segment.centre if isinstance(segment, Arc) else 0j for segment in segments]),
            np.array([isinstance(segment, Arc) and segment.ccw for segment in segments]),
            np.array([isinstance(segment, Arc) for segment in segments]),
        )

    def __len__(self) -> int:
        return len(self.start)

    def between(self, which: Indices, start: Points, end: Points) -> SegmentRows:
        """Some of the segments, with other ends."""
        return SegmentRows(start, end, self.centre[which], self.ccw[which], self.arc[which])

    def middles(self) -> Points:
        straight = (self.start + self.end) / 2
        if not self.bent:
            return straight
        spoke = (self.start - self.centre) * np.exp(0.5j * self.sweep)
        return np.where(self.arc, self.centre + spoke, straight)

    def shares(self, which: Indices, points: Points) -> Numbers:
        """How far along each of these segments the point beside it lies, as `Segment.share_of` tells it."""
        start, sweep = self.start[which], self.sweep[which]
        along = self.end[which] - start
        straight = ((points - start) * along.conjugate()).real / np.maximum(np.abs(along) ** 2, 1e-300)
        if not self.bent:
            return np.asarray(straight)
        centre = self.centre[which]
        angle = np.angle((points - centre) * (start - centre).conjugate())
        angle = np.where((sweep > 0) & (angle < -1e-12), angle + 2 * np.pi, angle)
        angle = np.where((sweep < 0) & (angle > 1e-12), angle - 2 * np.pi, angle)
        return np.where(self.arc[which], angle / np.where(sweep == 0, 1, sweep), straight)

    def boxes(self) -> Numbers:
        """``(left, bottom, right, top)`` of each, in mm."""
        x, y = np.stack([self.start.real, self.end.real]), np.stack([self.start.imag, self.end.imag])
        left, right, bottom, top = x.min(axis=0), x.max(axis=0), y.min(axis=0), y.max(axis=0)
        at = np.flatnonzero(self.arc)
        if at.size:
            centre, radius, sweep = self.centre[at], self.radius[at], np.abs(self.sweep[at])
            begin = np.angle(np.where(self.ccw[at], self.start[at], self.end[at]) - centre)
            for quarter, side, far in (
                (0.0, right, centre.real + radius),
                (np.pi / 2, top, centre.imag + radius),
                (np.pi, left, centre.real - radius),
                (-np.pi / 2, bottom, centre.imag - radius),
            ):
                turned = (quarter - begin) % (2 * np.pi)
                reached = (turned > 0) & (turned < sweep)
                side[at[reached]] = far[reached]
        return np.stack([left, bottom, right, top], axis=1)
