"""Reads files that strangers made in a process of its own, with bounds of time and memory.

The readers count before they work, so that a hostile file is refused at once and by name. Whatever gets past that
ends here, and takes nothing with it.
"""

from __future__ import annotations

import json
import logging
import multiprocessing
import sys
import threading
import time
import traceback
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

from . import progress
from .bounds import HOLDS, READING, TIME_IS_OVER, Bounds, Watch, at_most, keep_within
from .drawing import BrokenFile
from .turns import Turns

log = logging.getLogger(__name__)

#: What a work answers: plain JSON values.
Answer = Any


#: Nobody waits longer than so many times the bound, however busy the machine is.
_PATIENCE = 4

_SIMPLER = "Simplify the drawing, or bring it in pieces."

_BEYOND_US = (
    "The file cannot be read: it is built in a way that the reader does not master. "
    "Save it again as plain SVG, or as DXF of 2010."
)


#: A helper with the readers loaded, from which each work starts as a fresh copy, in a few milliseconds.
_METHODS = multiprocessing.get_all_start_methods()
_helper: Any = multiprocessing.get_context("forkserver" if "forkserver" in _METHODS else "spawn")
if _helper.get_start_method() == "forkserver":
    _helper.set_forkserver_preload(
        [
            f"leannotch_core.{room}"
            for room in ("drawings.outline", "drawings.sent", "drawings.dxf", "drawings.pdf", "proof.report")
        ]
    )


#: How often (s) it is asked whether the work is to stop; and what a message begins with that tells of its progress.
_LISTEN, _SHARE = 0.2, b"share "


#: As many files at a time as there is memory for; the next one waits.
_turns = Turns(at_once=2)


class Stopped(Exception):  # noqa: N818 - it is a statement, and read as one
    """The work was ended because nobody waits for it any more."""


#: Hears which share of the work is done, now and then, and answers whether it is to stop.
Heard = Callable[[float], bool]


def apart(
    work: Callable[..., Answer], data: bytes, *more: Any, bounds: Bounds = READING, heard: Heard | None = None
) -> Answer:
    """The answer of ``work(data, *more)``, a function of a module, carried out in a process of its own.

    Raises `BrokenFile`, with the work's own words where it refuses the file, else with the bound that was met, or of
    who has too many waiting; and `Stopped` where who ``heard`` of it wants it to.
    """
    # A process without other threads can be copied as it is; a server's cannot, and has the helper.
    alone = sys.platform == "linux" and threading.active_count() == 1
    start = multiprocessing.get_context("fork") if alone else _helper
    with _turns.one():
        ours, theirs = start.Pipe(duplex=False)
        process = start.Process(target=_carry_out, args=(theirs, bounds, work, data, *more), daemon=True)
        process.start()
        theirs.close()
        try:
            told = _told(ours, bounds, heard or (lambda _: False), None if HOLDS else Watch(process.pid or 0, bounds))
        except EOFError:
            process.join(1)
            told = None if process.exitcode == TIME_IS_OVER else b""
        finally:
            process.kill()
            process.join()
            ours.close()
    if told is None:
        raise BrokenFile(_took(bounds.seconds))
    return _answer(json.loads(told) if told else {"beyond": f"the process ended with {process.exitcode}"}, bounds)


def _told(ours: Any, bounds: Bounds, heard: Heard, watch: Watch | None) -> bytes | None:
    """What the work says at its end, None where it says nothing in time. Raises `EOFError` and `Stopped`."""
    until, share = time.monotonic() + bounds.seconds * _PATIENCE, 0.0
    while time.monotonic() < until:
        if ours.poll(_LISTEN):
            told: bytes = ours.recv_bytes()
            if not told.startswith(_SHARE):
                return told
            share = float(told.removeprefix(_SHARE))
        if watch and (beyond := watch.beyond()):
            return None if beyond == "seconds" else json.dumps({"memory": True}).encode()
        if heard(share):
            raise Stopped
    return None


@contextmanager
def within(seconds: float) -> Iterator[None]:
    """A stretch of such work, in the main thread of its process, that takes at most so much of a processor's time.

    Raises `BrokenFile`.
    """

    with at_most(seconds, lambda: BrokenFile(_took(seconds))):
        yield


def _took(seconds: float) -> str:
    return f"Reading the file took more than {seconds:g} s and was stopped. {_SIMPLER}"


def _answer(told: dict[str, Any], bounds: Bounds) -> Answer:
    if "refused" in told:
        raise BrokenFile(told["refused"])
    if "memory" in told:
        raise BrokenFile(f"Reading the file took more than {bounds.megabytes} MB of memory. {_SIMPLER}")
    if "beyond" in told:
        log.error("a file could not be read: %s", told["beyond"])
        raise BrokenFile(_BEYOND_US)
    done: Answer = told["done"]
    return done


def _carry_out(tell: Any, bounds: Bounds, work: Callable[..., Answer], *given: Any) -> None:
    """In the other process: one JSON value, whatever happens short of its end."""
    keep_within(bounds)
    # What libraries have to say of a broken file would fill the server's log.
    logging.disable(logging.WARNING)
    progress.listen(lambda share: tell.send_bytes(_SHARE + str(share).encode()))
    try:
        told: dict[str, Any] = {"done": work(*given)}
    except BrokenFile as refusal:
        told = {"refused": str(refusal)}
    except MemoryError:
        told = {"memory": True}
    except Exception:
        told = {"beyond": traceback.format_exc()[-4000:]}
    tell.send_bytes(json.dumps(told).encode())
