"""Tables as comma-separated values (RFC 4180), as a program of tables opens them."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Sequence


def separated(rows: Iterable[Sequence[object]]) -> bytes:
    """The rows in UTF-8, marked as such."""
    written = io.StringIO()
    csv.writer(written, lineterminator="\r\n").writerows(rows)
    return b"\xef\xbb\xbf" + written.getvalue().encode()


def as_text(name: str) -> str:
    """A name that no table program takes for a formula."""
    return f"'{name}" if name.startswith(("=", "+", "-", "@")) else name
