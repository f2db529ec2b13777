"""What is refused anywhere, as the sentence that the shell shows; a fault of ours is none and shows its trace."""

from __future__ import annotations

import sys


def says(error: Exception) -> str | None:
    """The sentence of a refusal; None where it is no refusal."""
    from leannotch_core.said import Said

    if isinstance(error, Said):
        return str(error)
    if isinstance(error, OSError) and error.strerror and error.filename:
        return f"{error.filename} cannot be used: {error.strerror}."
    return _of_django(error)


def _of_django(error: Exception) -> str | None:
    # Where it was not loaded, nothing of it was raised.
    if "workshop.storage" not in sys.modules:
        return None
    from django.core.management import CommandError
    from django.db import DatabaseError
    from workshop import storage
    from workshop.revisions import Unreadable

    if isinstance(error, (CommandError, Unreadable, storage.StorageTrouble)):
        return str(error)
    return storage.why(error) if isinstance(error, DatabaseError) else None
