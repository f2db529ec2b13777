"""Reads the typed sizes of a document into millimetres, and keeps a finding for each that cannot be read."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from ..document.sizes import Size, length, number
from ..document.sums import SizeError
from .codes import FindingCode
from .findings import Finding, Mend, Place

Names = Mapping[str, float]


class Reader:
    """Collects values (mm, by their path in the document), findings, and the names that sizes may use."""

    def __init__(self, names: Names | None = None) -> None:
        self.values: dict[str, float] = {}
        self.findings: list[Finding] = []
        self.names: dict[str, float] = dict(names or {})

    def beside(self) -> Reader:
        """A reader of the same names that has read nothing yet."""
        other = Reader()
        other.names = self.names
        return other

    def take(self, other: Reader) -> None:
        """Takes over what another one has read and told."""
        self.values.update(other.values)
        self.findings.extend(other.findings)

    def error(self, code: FindingCode, text: str, place: Place, *mends: Mend) -> None:
        self.findings.append(Finding(level="error", code=code, text=text, place=place, mends=mends))

    def warn(self, code: FindingCode, text: str, place: Place, *mends: Mend) -> None:
        self.findings.append(Finding(level="warning", code=code, text=text, place=place, mends=mends))

    def note(self, code: FindingCode, text: str, place: Place, *mends: Mend) -> None:
        self.findings.append(Finding(level="note", code=code, text=text, place=place, mends=mends))

    def size(
        self,
        path: str,
        size: Size,
        names: Names,
        at: Callable[[], Place],
        reader: Callable[[Size, Names], float] = length,
        called: str = "",
    ) -> float | None:
        """The size in mm, or None with an error that begins with what it is ``called``.

        ``at`` says where it belongs, and is asked only where it cannot be read: a project has thousands of sizes.
        """
        try:
            value = reader(size, names)
        except SizeError as error:
            place = at()
            self.error("size-unreadable", f"{called or place.field}: {error}", place)
            return None
        self.values[path] = value
        return value

    def number(self, path: str, size: Size, at: Callable[[], Place], called: str) -> float | None:
        """As `size`, for an angle in degrees or a share."""
        return self.size(path, size, {}, at, lambda text, _: number(text), called)
