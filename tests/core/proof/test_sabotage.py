"""Spoiled files, a few dozen a run; `python -m tests.sabotage 3000` for many, with the table of docs/promises.md."""

import random

import pytest

from ...sabotage import BEAM, ROUTER, SPOILS, main, right, right_file, spoil
from ...shipped import projects

#: Small ones that have all there is: marks, pockets, bends, tabs, joints, several sheets.
SOME = ["sorting_tray", "drip_bracket", "cross_staff", "tide_gauge_rest", "logger_cover", "lens_stand"]


@pytest.mark.parametrize("seed", [1, 2])
def test_a_spoiled_file_is_found_out_and_its_place_is_told(seed):
    counted = spoil(45, seed, SOME)
    assert counted.missed == []
    assert sum(counted.tried.values()) == 45 == sum(counted.placed.values())
    # No kind twice as long as others wait, and every format has its turn.
    assert {where for _, where in counted.tried} >= {"svg", "dxf", "pdf", "laser nc", "router nc"}
    assert {what for what, _ in counted.tried} <= {*SPOILS, *BEAM, *ROUTER}


def test_a_correct_file_is_not_refused_whatever_kerf_cutter_tabs_and_sheet():
    tried, refused = right(14, seed=5)
    assert tried >= 14 and refused == []


def test_the_files_that_are_spoiled_were_right():
    assert sum(right_file(name, "laser", 0, "dxf") is not None for name in SOME) == len(SOME)
    assert set(SOME) <= set(projects()) and random.Random(1).random()


def test_the_command_prints_a_table_and_what_was_missed(capsys):
    assert main(["2", "--seed", "4"]) == 0
    said = capsys.readouterr().out
    assert "| spoiled by |" in said and "Found 2 of 2; located 2." in said
