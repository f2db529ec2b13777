"""Files made to break readers: each ends in a sentence or in its pieces, within ten seconds and a gigabyte."""

import multiprocessing
import os
import re
import signal
import time

import pytest
from leannotch_core.drawings import apart as apart_module
from leannotch_core.drawings import bounds as bounds_module
from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.bounds import Bounds
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.drawings.outline import bring_outline, outline_apart
from leannotch_core.drawings.svg import read_svg
from leannotch_core.evaluate import evaluate
from leannotch_core.parts.part import Part
from leannotch_core.parts.shapes.brought import Brought
from leannotch_core.proof.report import proved_apart
from leannotch_core.proof.sweep import prove

from ...hostile import files as hostile
from ...projects import part, project
from ...shell import of

main = of("proof")

#: With the hundred megabytes that the readers themselves take, less than a gigabyte.
BOUNDS = Bounds(seconds=10, megabytes=800)


def told(work, *given):
    """What the maker is told, and the answer where there is one."""
    try:
        answer = apart(work, *given, bounds=BOUNDS)
    except BrokenFile as refusal:
        return str(refusal), None
    return answer.get("sentences") or " ".join(answer["notes"]), answer


@pytest.mark.parametrize("name", hostile.FILES)
def test_a_hostile_file_ends_in_a_sentence(name):
    data, says = hostile.FILES[name]
    for text, answer in (told(outline_apart, data), told(proved_apart, data, name, 0.1)):
        assert "Traceback" not in text and len(text) < 100_000
        assert answer if says is None else re.search(says, text), text


def test_what_holds_no_file_ends_in_a_sentence_too(tmp_path, capsys):
    for path in (tmp_path / "missing.svg", tmp_path, tmp_path / ("long" * 80), "nul\0.svg"):
        assert main([str(path), "--kerf", "0.1"]) == 2
        assert "cannot be read" in capsys.readouterr().err


def endless(data):
    while data:
        pass


def hoarding(data):
    return {"kept": bytes(3_000_000_000)}


def crashing(data):
    os.kill(os.getpid(), signal.SIGKILL)


def faulty(data):
    return {"never": 1 / len(data[1:])}


@pytest.mark.parametrize(
    ("work", "says"),
    [
        (endless, "took more than 1 s and was stopped"),
        (hoarding, "took more than 300 MB of memory"),
        (crashing, "the reader does not master"),
        (faulty, "the reader does not master"),
    ],
)
def test_what_gets_past_every_count_ends_at_the_bounds(work, says):
    with pytest.raises(BrokenFile, match=says):
        apart(work, b"x", bounds=Bounds(seconds=1, megabytes=300))


def test_four_hundred_holes_and_more_are_brought_and_proved():
    found = bring_outline(hostile.plate_with_holes(600)).shape
    assert isinstance(found, Brought) and len(found.rings) == 601
    plate = Part.model_validate(part("plate", 1, 1) | {"shape": found})
    result = evaluate(project([plate]))
    assert not result.errors and len(result.parts["plate"].outline.cutouts) == 600
    assert len(prove(read_svg(hostile.plate_with_holes(600)), 0.1).pieces) == 601


def test_a_square_in_metres_is_as_large_as_it_was_drawn():
    found = bring_outline(hostile.FILES["metres.dxf"][0]).shape
    assert (found.width.text, found.height.text) == ("150", "150")


@pytest.mark.parametrize("tilt", range(0, 40, 4))
def test_pointed_leaves_are_brought_whole(tilt):
    """Two curves that meet in corners: nothing in them crosses, however the arcs' ends are rounded."""
    leaf = f"M50 30C{30 - tilt / 3} 10 0 {40 - tilt / 7} 50 80C100 40 {70 + tilt / 9} 10 50 30Z"
    brought = bring_outline(hostile.svg(f'<path d="{leaf}"/>')).shape
    plate = Part.model_validate(part("plate", 1, 1) | {"shape": brought})
    assert not evaluate(project([plate])).errors


def ever_more(_):
    held = []
    while True:
        held.append(b"x" * 8_000_000)
        time.sleep(0.01)


def for_ever(_):
    while True:
        pass


@pytest.mark.parametrize(
    ("work", "bounds", "says"),
    [
        (ever_more, Bounds(seconds=60, megabytes=200), "took more than 200 MB of memory"),
        (for_ever, Bounds(seconds=1, megabytes=600), "took more than 1 s and was stopped"),
    ],
)
def test_where_the_system_bounds_nothing_whoever_began_the_work_does(monkeypatch, work, bounds, says):
    """As on systems without such bounds: nothing but the watch ends it."""
    # A copy of this process, in which nothing is bounded either.
    monkeypatch.setattr(apart_module, "_helper", multiprocessing.get_context("fork"))
    monkeypatch.setattr(apart_module, "HOLDS", False)
    monkeypatch.setattr(bounds_module, "HOLDS", False)
    with pytest.raises(BrokenFile, match=says):
        apart(work, b"", bounds=bounds)
