"""Innermost loops, compiled to machine code when they are first used and kept for later.

What is kept belongs to these very sources: a compiled function would not notice that one it calls has changed.
"""

import hashlib
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar, cast

from numba import config, njit

_HERE = Path(__file__).parent
#: Where compiled loops stand.
_ROOMS = ("layout/innermost", "layout", "machining", "device")
_SOURCES = b"".join(source.read_bytes() for room in _ROOMS for source in sorted((_HERE / room).glob("*.py")))
config.CACHE_DIR = str(  # type: ignore[attr-defined]
    _HERE / "__pycache__" / hashlib.sha256(_SOURCES).hexdigest()[:12]
)

#: Sums may be taken in any order: what depends on the last bits is kept apart by more than they are.
_FASTER = {"reassoc", "contract", "arcp", "nsz", "nnan"}
_HOW: dict[str, Any] = {"cache": True, "nogil": True, "error_model": "numpy", "fastmath": _FASTER}

_Function = TypeVar("_Function", bound=Callable[..., Any])


def compiled(function: _Function) -> _Function:
    """For loops that make arrays."""
    return cast(_Function, njit(**_HOW)(function))


def light(function: _Function) -> _Function:
    """For what is called most and makes no arrays: counting those that it is given would cost more than it does."""
    how: dict[str, Any] = {**_HOW, "_nrt": False}
    return cast(_Function, njit(**how)(function))


def inlined(function: _Function) -> _Function:
    """For what is too small to be called."""
    return cast(_Function, njit(inline="always", **_HOW)(function))
