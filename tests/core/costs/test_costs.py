"""What a project costs, by hand: areas by shapely, cutters' ways as the written program has them, sums by table."""

import csv
import io

import gcodeparser
import numpy as np
import pytest
import shapely
from leannotch_core.costs.cost import cost_of
from leannotch_core.costs.owners import OwnedSheet, by_owner
from leannotch_core.costs.rates import MOST, CannotRate, HandWork, Rates
from leannotch_core.costs.table import write_costs
from leannotch_core.costs.taken import Taken, taken
from leannotch_core.document.sheet import Barred, LaidSheet, Layout, Placement
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.handover.proved import written
from leannotch_core.machining.prepared import prepare

from ...projects import part, project, stock
from ..machining.test_router import hole, mill, routed

LASER = next(machine for machine in shipped().values() if machine.kind == "beam")
NONE = HandWork()
#: 400 x 200 with a plate of 100 x 80 and two of 50 x 40, so close together that the rest is one piece.
LAID = [("plate", 1, 0, 0), ("tag", 1, 100.1, 0), ("tag", 2, 100.1, 40.1)]


def laid(work=NONE, **sheet):
    """A project on one sheet, and what it takes."""
    lies = [Placement(part=p, copy_number=n, sheet=0, x=x, y=y, turn=0) for p, n, x, y in LAID]
    document = project(
        [part("plate", 100, 80), part("tag", 50, 40, count=2)],
        stocks=[stock(kerf="0.1")],
        layout=Layout(
            margin="0", gap="0", sheets=[LaidSheet(stock="ply", width=400, height=200, **sheet)], placements=lies
        ),
        machines=[LASER],
        machine=LASER.id,
    )
    result = evaluate(document)
    ready = prepare(document, result, 0)
    return document, ready, taken(document, result, [ready], work)


def amounts(found, driver, part_id=None):
    return [one.amount for one in found if one.driver == driver and part_id in (None, one.part)]


def test_a_sheet_loses_what_no_offcut_keeps_and_parts_share_it_by_their_areas():
    _, _, found = laid()
    # 250 x 200 right of the parts go to the shelf, with 150 x 120 above them; its edge lies half a millimetre within.
    rest = shapely.union(shapely.box(150, 0, 400, 200), shapely.box(0, 80, 400, 200))
    lost = 400 * 200 - rest.area
    assert lost == 150 * 80
    assert sum(amounts(found, "stock")) == pytest.approx(lost / 1e6, rel=0.06)
    plate, tags = sum(amounts(found, "stock", "plate")), sum(amounts(found, "stock", "tag"))
    assert plate / tags == pytest.approx(100 * 80 / (2 * 50 * 40))


def test_what_is_missing_of_a_sheet_is_not_paid_for_again():
    whole = sum(amounts(laid()[2], "stock"))
    corner = Barred(
        what="missing", corners=[{"x": 300, "y": 100}, {"x": 400, "y": 100}, {"x": 400, "y": 200}, {"x": 300, "y": 200}]
    )
    assert sum(amounts(laid(barred=[corner])[2], "stock")) == pytest.approx(whole, rel=0.1)
    clip = corner.model_copy(update={"what": "clip"})
    assert sum(amounts(laid(barred=[clip])[2], "stock")) == pytest.approx(whole, rel=0.1)


def test_time_is_the_clock_of_the_machine_whole_and_hand_work_counts_once_by_sheet_and_by_piece():
    _, ready, found = laid(HandWork(once=30, sheet=6, piece=2))
    assert sum(amounts(found, "machine")) * 3600 == pytest.approx(ready.seconds)
    assert amounts(found, "piece", "tag") == [2] and amounts(found, "bend") == []
    assert sorted(amounts(found, "hand")) == pytest.approx([2 / 60, 4 / 60, 6 / 60, 30 / 60])
    assert not amounts(laid()[2], "hand")


def test_what_is_done_once_is_shared_by_the_sets_and_what_has_no_rate_is_told():
    document, _, found = laid(HandWork(once=30, piece=2))
    rates = (
        Rates(money="crowns").with_rate("hand", "", 40).with_rate("piece", "", 0.5).with_rate("stock", "Test ply", 100)
    )
    cost = cost_of(document, found, rates)
    area = sum(amounts(found, "stock"))
    # 30 minutes once at 40 an hour are 20; three pieces take 6 minutes by hand and 0.50 each.
    rest = 6 / 60 * 40 + 3 * 0.5 + area * 100
    assert cost.total == pytest.approx(20 + rest)
    assert [(one.sets, one.each) for one in cost.sets] == [
        (1, pytest.approx(20 + rest)),
        (10, pytest.approx(2 + rest)),
        (100, pytest.approx(0.2 + rest)),
    ]
    assert cost.lacking == 1 and [line.total for line in cost.lines if line.driver == "machine"] == [None]
    # What is for no part in particular is the whole's alone.
    assert sum(one.each * one.copies for one in cost.parts) == pytest.approx(rest)
    assert cost.sheets[0].total == pytest.approx(rest)
    assert cost.unlaid == 0
    more = document.model_copy(update={"parts": [p.model_copy(update={"count": p.count + 1}) for p in document.parts]})
    assert cost_of(more, found, rates).unlaid == 2


def test_a_cutter_wears_by_what_it_goes_under_the_face_as_the_written_program_has_it():
    document = routed([part("plate", 120, 90, cutouts=[hole("eye", 30)])], cutters=[mill()])
    result = evaluate(document)
    ready = prepare(document, result, 0)
    found = taken(document, result, [ready], HandWork())
    program = written(document, result, ready, "nc", document.hand_over).data.decode()
    assert sum(amounts(found, "cutter")) == pytest.approx(_under_the_face(program), rel=0.01)
    assert {one.name for one in found if one.driver == "cutter"} == {document.cutters[0].name}


def _under_the_face(program):
    """Metres of all lines and arcs of a program that begin or end below zero; arcs by their chord's angle."""
    at, metres = np.zeros(3), 0.0
    for line in gcodeparser.GcodeParser(program).lines:
        if line.command[0] != "G" or line.command[1] not in (0, 1, 2, 3):
            continue
        to = np.array([line.params.get(axis, at[i]) for i, axis in enumerate("XYZ")], dtype=float)
        flat, up = np.hypot(*(to - at)[:2]), to[2] - at[2]
        if line.command[1] in (2, 3):
            radius = np.hypot(line.params.get("I", 0), line.params.get("J", 0))
            middle = at[:2] + np.array([line.params.get("I", 0), line.params.get("J", 0)])
            begin, end = (np.arctan2(*(p[:2] - middle)[::-1]) for p in (at, to))
            turn = (end - begin if line.command[1] == 3 else begin - end) % (2 * np.pi)
            flat = radius * (turn or 2 * np.pi)
        if line.command[1] and min(at[2], to[2]) < 0:
            metres += np.hypot(flat, up) / 1000
        at = to
    return metres


def test_the_table_adds_up_to_what_is_told_and_no_name_is_a_formula():
    document, _, found = laid(HandWork(once=30))
    document = document.model_copy(
        update={"parts": [document.parts[0].model_copy(update={"name": "=1+1"}), document.parts[1]]}
    )
    rates = Rates(money="€").with_rate("hand", "", 40).with_rate("machine", LASER.name, 30)
    rows = list(csv.DictReader(io.StringIO(write_costs(document, found, rates).decode("utf-8-sig"))))
    assert sum(float(row["cost €"] or 0) for row in rows) == pytest.approx(
        cost_of(document, found, rates).total, abs=1e-3
    )
    assert {row["part"] for row in rows} == {"'=1+1", "Tag", ""}
    assert [row["cost €"] for row in rows if row["what"] == "piece"] == ["", ""]


def test_a_rate_is_set_anew_taken_away_and_refused_with_the_mend():
    rates = Rates().with_rate("stock", "Birch", 12).with_rate("stock", "Card", 3).with_rate("stock", "Birch", 14)
    assert (rates.worth("stock", "Birch"), rates.worth("stock", "Card"), rates.worth("bend")) == (14, 3, None)
    assert rates.with_rate("stock", "Birch", None).worth("stock", "Birch") is None
    for driver, name in (("stock", ""), ("bend", "Birch")):
        with pytest.raises(CannotRate, match="That rate is for"):
            rates.with_rate(driver, name, 1)
    full = rates.model_copy(update={"rates": [rates.rates[0].model_copy(update={"name": str(n)}) for n in range(MOST)]})
    with pytest.raises(CannotRate, match="500 rates"):
        full.with_rate("stock", "one more", 1)
    assert full.with_rate("stock", "7", 1).worth("stock", "7") == 1


def test_what_each_maker_takes_is_added_up_by_name():
    """By hand: 0.1 m2 at 20 and 0.5 h at 30 for Ida, of which one sheet is cut; Bram's hour has no rate of its own."""
    kept = Rates().with_rate("stock", "Ply", 20).with_rate("machine", "Laser", 30)

    def sheet(owner, seconds, *takes, cut=False, late=False):
        return OwnedSheet(owner, seconds, cut, late, [Taken(driver, name, much, 0) for driver, name, much in takes])

    rows = by_owner(
        [
            sheet("Ida", 600, ("stock", "Ply", 0.04), ("machine", "Laser", 0.2), late=True),
            sheet("Bram", 3600, ("machine", "Router", 1.0)),
            sheet("Ida", 900, ("stock", "Ply", 0.06), ("machine", "Laser", 0.3), cut=True, late=True),
        ],
        kept,
    )
    assert [row.model_dump() for row in rows] == [
        {"owner": "Bram", "sheets": 1, "cut": 0, "seconds_left": 3600, "late": 0, "total": 0, "lacking": 1},
        {"owner": "Ida", "sheets": 2, "cut": 1, "seconds_left": 600, "late": 1, "total": 17, "lacking": 0},
    ]
    assert by_owner([], kept) == []
