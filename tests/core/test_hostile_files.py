"""Files made to break readers: each ends in a sentence or in its pieces, within ten seconds and a gigabyte."""

import time

import pytest
from leannotch_core.bringing import outline_apart
from leannotch_core.formats.apart import Bounds, apart
from leannotch_core.formats.drawing import BrokenFile
from leannotch_core.proof.report import proved_apart

from .. import hostile

BOUNDS = Bounds(seconds=10, megabytes=800)


def told(work, data, *more):
    """What the maker is told: a refusal, or notes and findings."""
    began = time.monotonic()
    try:
        answer = apart(work, data, *more, bounds=BOUNDS)
    except BrokenFile as refusal:
        return str(refusal), None
    finally:
        took = time.monotonic() - began
        if took > 3:
            print(more, took)
    return answer.get("sentences") or " ".join(answer["notes"]), answer


@pytest.mark.parametrize("name", hostile.FILES)
def test_x(name, capsys):
    data, says = hostile.FILES[name]
    with capsys.disabled():
        a = time.time()
        o, oa = told(outline_apart, data)
        b = time.time()
        p, pa = told(proved_apart, data, name, 0.1)
        c = time.time()
        print(
            f"\n{name:22} {b - a:.1f} {c - b:.1f} {'OK ' if oa else ''}{o[:100]!r} || {'OK ' if pa else ''}{p[:150]!r}"
        )
