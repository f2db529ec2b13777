"""Tables as comma-separated values (RFC 4180), as a program of tables opens them."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable, Sequence


def separated(rows: Iterable[Sequence[object]]) -> bytes:
    """The rows in UTF-8, marked as such."""
    written = io.StringIO()
    csv.writer(written, lineterminator="\r\n").writerows(rows)
    return b"\xef\xbb\xbf" + written.getvalue().encode()


#: What stands between the columns: a program of tables takes what its country does.
_BETWEEN = (",", ";", "\t")


def first_column(data: bytes) -> list[str]:
    """What stands in the first column of a table, each on one line; one that is not in UTF-8 is taken for Windows-1252.

    Its columns are parted by what its first row has most of.
    """
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("cp1252", errors="replace")
    text = text.replace("\0", "")
    # What is quoted parts nothing.
    head = re.sub(r'"[^"]*"', "", text.partition("\n")[0])
    between = max(_BETWEEN, key=head.count)
    rows = csv.reader(io.StringIO(text, newline=""), delimiter=between)
    try:
        return [" ".join(row[0].split()) for row in rows if row]
    except csv.Error:
        # One field is larger than any name.
        return []


def as_text(name: str) -> str:
    """A name that no table program takes for a formula."""
    return f"'{name}" if name.startswith(("=", "+", "-", "@")) else name
