"""The assembly sheet: its pages are read by another's reader of PDF, what is drawn on them is held against solids."""

import io
import re

import numpy as np
import pikepdf
import pytest
from leannotch_core.assembly.order import AssemblyStep, assembly_order
from leannotch_core.assembly.poses import Copy
from leannotch_core.assembly.step_words import coming_from, step_words
from leannotch_core.portrait.assembly_sheet import write_assembly_sheet
from pypdf import PdfReader

from ...shipped import projects
from .test_look_page import whole


def sheet_of(name):
    document, result, assembly = whole(projects()[name])
    steps = assembly_order(result, assembly).steps
    return steps, write_assembly_sheet(document, result, assembly, steps)


def fills(page):
    """The polygons that are filled on a page, in points, each with how light it is (0 is black)."""
    found, tone, corners = [], 0.0, []
    for operands, operator in pikepdf.parse_content_stream(page):
        if str(operator) == "g":
            tone = float(operands[0])
        elif str(operator) in "ml":
            corners.append([float(number) for number in operands])
        elif str(operator) in ("B*", "f"):
            found.append((tone, np.array(corners)))
            corners = []
        elif str(operator) == "S":
            corners = []
    return found


def test_every_step_has_its_sentence_and_a_picture_in_which_what_comes_is_lighter():
    steps, written = sheet_of("sorting_tray")
    pages = PdfReader(io.BytesIO(written)).pages
    words = " ".join(" ".join(page.extract_text().split()) for page in pages)
    assert [int(number) for number in re.findall(r"\b(\d+)\. ", words)] == list(range(1, len(steps) + 1))
    assert "Floor" in words and "240 mm x 180 mm" in words
    with pikepdf.open(io.BytesIO(written)) as read:
        for page in list(read.pages)[1:]:
            drawn = fills(page)
            corners = np.vstack([polygon for _, polygon in drawn])
            assert (corners > 15 / 25.4 * 72 - 1).all() and (corners < [595 - 41, 842 - 41]).all()
            assert {tone > 0.85 for tone, _ in drawn if tone} == {True, False}


def test_the_same_steps_give_the_same_bytes_and_a_project_without_steps_one_page():
    assert sheet_of("sorting_tray")[1] == sheet_of("sorting_tray")[1]
    steps, written = sheet_of("stake_tags")
    assert not steps and len(PdfReader(io.BytesIO(written)).pages) == 1


@pytest.mark.parametrize(
    ("direction", "said"),
    [
        ((0, 0, -1), "above"),
        ((0, 0, 1), "below"),
        ((1, 0, 0), "the left"),
        ((0, -1, 0), "the back"),
        ((0.7, 0, -0.71), "above and the left"),
        ((0.29, 0, -0.95), "above"),
        ((0.31, 0, -0.95), "above and the left"),
    ],
)
def test_a_move_comes_from_where_it_begins(direction, said):
    assert coming_from(direction) == said


def test_copies_are_numbered_where_there_are_several_and_many_are_not_named():
    _, result, _ = whole(projects()["sorting_tray"])
    onto = (Copy("floor", 1), Copy("end_wall", 1), Copy("end_wall", 2))
    step = AssemblyStep((Copy("long_wall", 2),), onto, (0, 0, -1), 30)
    assert step_words(result, step) == "Long wall 2 onto Floor, End wall 1, End wall 2, from above"
    more = AssemblyStep(step.moving, (*onto, Copy("long_wall", 1)), step.direction, 30)
    assert step_words(result, more) == "Long wall 2 onto what stands already, from above"
