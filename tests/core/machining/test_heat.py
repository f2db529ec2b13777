"""The heat of a beam: where cuts are begun, thin webs kept apart in time, and webs that get too much."""

from itertools import pairwise

import pytest
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.segment import Line
from leannotch_core.handover.proved import written
from leannotch_core.machining.prepared import cooled, prepare
from shapely import LineString

from ...projects import part, project, stock
from ...shipped import laid_out, on_router

SLIT = {"kind": "rectangle", "width": "2", "height": "40"}
ROUND = {"kind": "round", "diameter": "20"}


def sheet(parts, heat=None, settings=(), **preparation):
    known = {"machine": "laser", "kerf": {"how": "typed", "width": "0.2"}, "settings": list(settings)}
    fits = {"loose": "0.3", "sliding": "0.2", "glue": "0.1", "press": "-0.05"}
    made = project(parts, [], [stock(heat=heat or {}, on=[known | {"clearances": fits}])])
    lying = [
        {"part": one["id"], "copy_number": 1, "sheet": 0, "x": 10 + 130 * at, "y": 10, "turn": 0}
        for at, one in enumerate(parts)
    ]
    layout = {"sheets": [{"stock": "ply", "width": 600, "height": 400}], "placements": lying}
    machine = {"id": "laser", "name": "Test laser", "kind": "beam"}
    changes = {"layout": layout, "preparation": preparation, "machines": [machine], "machine": "laser"}
    return type(made).model_validate(made.model_dump(mode="json") | changes)


def ready(document):
    return prepare(document, evaluate(document), 0)


def grille(slits=12, apart=4.0):
    cuts = [
        {"id": f"slit_{at}", "hole": SLIT, "x": f"{20 + apart * at}", "y": "40"} for at in range(slits)
    ]  # fmt: skip
    return part("grille", 120, 80, cutouts=cuts)


def lines(document, stage):
    return [path for job in ready(document).plan.jobs if job.key.stage == stage for path in job.paths]


# Where cuts are begun


def test_away_from_corners_cuts_begin_in_the_middle_of_what_is_straight_and_their_lines_stay_whole():
    plate = part("plate", 120, 80, cutouts=[{"id": "slot", "hole": SLIT, "x": "60", "y": "40"}])
    at_corners, away = sheet([plate]), sheet([plate], begun="away from corners")
    for stage, sides in (("outer", 4), ("inner", 4)):
        [before], [after] = lines(at_corners, stage), lines(away, stage)
        corners = {segment.start for segment in before.segments}
        assert before.start in corners and after.start not in corners
        # One side is in two pieces, between which it is begun.
        assert len(before.segments) == sides and len(after.segments) == sides + 1
        assert abs(after.segments[0].end - after.start) == pytest.approx(abs(after.segments[-1].start - after.start))
        assert min(abs(after.start - corner) for corner in corners) >= 3
    result = evaluate(away)
    assert not written(away, result, ready(away), "svg", away.hand_over).proof.faults


def test_what_has_nothing_straight_and_long_is_begun_as_it_was():
    disc = part("disc", 60, 40, cutouts=[{"id": "hole", "hole": ROUND, "x": "30", "y": "20"}])
    [hole] = lines(sheet([disc], begun="away from corners"), "inner")
    assert hole.segments == lines(sheet([disc]), "inner")[0].segments


@pytest.mark.parametrize(
    ("side", "x", "y"), [("left", 10, None), ("right", 130, None), ("bottom", None, 10), ("top", None, 90)]
)
def test_edges_that_show_are_begun_on_the_waste_at_the_side_that_the_stock_says(side, x, y):
    heat = {"lead": "2", "side": side}
    shows, plain = (sheet([part("plate", 120, 80, shows=shows)], heat, begun="away from corners") for shows in (1, 0))
    [path] = lines(shows, "outer")
    assert (x is None or abs(path.start.real - x) < 0.2) and (y is None or abs(path.start.imag - y) < 0.2)
    assert abs(path.lead - path.start) == pytest.approx(2)
    assert not (10 <= path.lead.real <= 130 and 10 <= path.lead.imag <= 90)
    assert lines(plain, "outer")[0].lead is None
    result = evaluate(shows)
    assert not written(shows, result, ready(shows), "svg", shows.hand_over).proof.faults


def test_a_start_that_was_put_by_hand_stays_and_a_longer_lead_of_the_sheet_holds():
    start = {"part": "plate", "at": {"shape": "plate", "side": "top", "share": 0.25}}
    document = sheet([part("plate", 120, 80, shows=True)], {"side": "bottom"}, starts=[start], lead="3")
    [path] = lines(document, "outer")
    assert path.start.imag > 89 and abs(path.lead - path.start) == pytest.approx(3)


# Kept apart in time


def slits_in_order(document):
    middles = [sum(one.start.real for one in path.segments) / len(path.segments) for path in lines(document, "inner")]
    return [round((middle - 30) / 4) for middle in middles]


def test_slits_of_a_grille_are_cut_far_from_each_other_and_what_that_costs_is_told():
    # A slit of 84 mm takes 5.6 s at 15 mm/s: its neighbour has rested for 8 s once two others were cut between.
    at_once, apart = sheet([grille()]), sheet([grille()], cooling=True)
    assert slits_in_order(at_once) in (list(range(12)), list(range(11, -1, -1)))
    assert all(abs(a - b) > 1 for a, b in pairwise(slits_in_order(apart)))
    costs = cooled(apart, evaluate(apart), ready(apart), 0)
    # The outline comes last, after all of them: it lies beside none.
    assert costs.else_soon == (11, 11) and costs.soon == (0, 11)
    assert costs.seconds == pytest.approx(ready(apart).seconds - ready(at_once).seconds) and costs.seconds > 0
    assert cooled(at_once, evaluate(at_once), ready(at_once), 0) is None
    result = evaluate(apart)
    assert not written(apart, result, ready(apart), "svg", apart.hand_over).proof.faults


def test_what_cannot_be_kept_apart_is_told_and_slits_with_wide_webs_lie_by_the_short_way():
    two = sheet([grille(slits=2)], cooling=True)
    assert cooled(two, evaluate(two), ready(two), 0).soon == (1, 1)
    wide = sheet([grille(slits=3, apart=12)], cooling=True)
    assert slits_in_order(wide) == slits_in_order(sheet([grille(slits=3, apart=12)]))


def test_neighbours_on_the_sheet_are_kept_apart_too():
    strips = [part(f"strip_{at}", 4, 120) for at in range(6)]
    lying = sheet(strips, cooling=True)
    placed = [one.model_copy(update={"x": 10 + 5 * at}) for at, one in enumerate(lying.layout.placements)]
    close = lying.model_copy(update={"layout": lying.layout.model_copy(update={"placements": placed})})
    order = [job.key.part for job in ready(close).plan.jobs]
    numbers = [int(name.removeprefix("strip_")) for name in order]
    assert sorted(numbers) == list(range(6)) and all(abs(a - b) > 1 for a, b in pairwise(numbers[:3]))


# Too hot


@pytest.mark.parametrize(("speed", "told"), [(10.1, False), (9.9, True)])
def test_a_web_is_too_thin_for_its_heat_from_the_dose_on_that_its_stock_stands(speed, told):
    # 2 mm between slits, 0.25 mm for each percent second a millimetre: 80 % at 10 mm/s are just 8.
    cut = {"operation": "cut", "speed": speed, "power": 80}
    document = sheet([grille(slits=2)], {"web": 0.25}, settings=[cut])
    found = [finding for finding in ready(document).findings if finding.code == "web-too-hot"]
    assert bool(found) is told
    if told:
        assert "Grille: a web of 2 mm" in found[0].text and "2.02 mm stay whole" in found[0].text
        assert LineString([(31, 30), (31, 70)]).distance(LineString([(found[0].place.x, found[0].place.y)] * 2)) < 3


def test_a_line_of_a_path_is_whole_again_once_it_is_begun():
    [path] = lines(sheet([part("plate", 120, 80)], begun="away from corners"), "outer")
    assert sum(isinstance(segment, Line) for segment in path.segments) == 5 and path.begins == ()


def test_a_cutter_is_begun_where_it_goes_down_whatever_is_said_of_corners():
    document = laid_out(on_router(project([part("plate", 120, 80)])))
    away = document.preparation.model_copy(update={"begun": "away from corners"})
    before, after = (ready(one).plan.jobs for one in (document, document.model_copy(update={"preparation": away})))
    assert [job.paths for job in before] == [job.paths for job in after]
