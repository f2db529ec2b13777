"""What is told of a part before anything is written: thin webs, narrow gaps, marks on nothing, what corners take."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.edits.command import apply
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.geometry.loop import Outline, polygon
from leannotch_core.geometry.segment import Source
from leannotch_core.layout.nest import nest
from leannotch_core.machining.plan import CannotPlan
from leannotch_core.machining.prepared import prepare
from leannotch_core.parts.necks import necks, tight_gaps

from ...projects import part, project, splice, stock, text
from ...properties import tried
from ...shipped import laid_out, on_router


def outline(*points):
    places = [complex(*point) for point in points]
    return Outline(polygon(places, [Source("shape", "side")] * len(places)))


def notched(web):
    """A plate with two notches from above, so many mm apart."""
    a, b = 30 - web / 2, 30 + web / 2
    right = ((b + 8, 40), (b + 8, 20), (b, 20), (b, 40))
    left = ((a, 40), (a, 20), (a - 8, 20), (a - 8, 40))
    return outline((0, 0), (60, 0), (60, 40), *right, *left, (0, 40))


def slot(wide):
    """A notch from below, so many mm wide."""
    hole = {"kind": "rectangle", "width": str(wide), "height": "12"}
    return {"id": "slot", "hole": hole, "origin": "bottom", "x": "0", "y": "0"}


def codes(found):
    return [finding.code for finding in found.findings]


def finding(found, code):
    return next(one for one in found.findings if one.code == code)


# Webs and gaps


@pytest.mark.parametrize(("web", "told"), [(0.05, True), (0.4, True), (1.99, True), (2.01, False), (6, False)])
def test_a_web_between_two_notches_is_told_from_both_sides_of_its_limit(web, told):
    found = necks(notched(web), 2.0)
    assert bool(found) == told
    if told:
        assert found[0].distance == pytest.approx(web, abs=0.02)
        assert abs(found[0].at.real - 30) < 1 and 19 < found[0].at.imag < 41


@settings(max_examples=tried(20))
@given(st.floats(0.1, 5), st.floats(1, 20), st.floats(0, 360), st.floats(0.5, 3))
def test_a_finger_is_as_thin_as_it_is_whichever_way_it_points(wide, long, turn, least):
    points = [(0, 0), (40, 0), (40, 20), (20 + wide / 2, 20), (20 + wide / 2, 20 + long), (20 - wide / 2, 20 + long),
              (20 - wide / 2, 20), (0, 20)]  # fmt: skip
    turned = [complex(*p) * complex(math.cos(turn), math.sin(turn)) for p in points]
    found = necks(outline(*((p.real, p.imag) for p in turned)), least)
    if abs(wide - least) < 0.03 or long < least:
        return
    assert bool(found) == (wide < least)
    if found:
        # Of a stub that is hardly longer than a disc a little less is told, as the disc reaches into its root.
        assert found[0].distance == pytest.approx(wide, abs=0.03 if long > 1.5 * least else 0.2 * least)


def test_each_of_many_alike_openings_is_told_at_its_own_place():
    """A tongue 0.8 mm wide reaches into each of them; what is between them is no business of this."""
    tongued = [(0, 0), (12, 0), (12, 10), (6.4, 10), (6.4, 3), (5.6, 3), (5.6, 10), (0, 10)]
    holes = [[complex(x + 20 * n + 4, y + 8) for x, y in tongued] for n in range(5)]
    cut = tuple(polygon(hole, [Source("hole", "wall")] * 8).reversed() for hole in holes)
    plate = outline((0, 0), (110, 0), (110, 30), (0, 30))
    found = necks(Outline(plate.outer, cut), 1.5)
    assert [place.distance for place in found] == pytest.approx([0.8] * 5, abs=0.02)
    middles = sorted(place.at.real for place in found)
    assert middles == pytest.approx([10 + 20 * n for n in range(5)], abs=0.5)
    assert not necks(Outline(plate.outer, cut), 0.75)
    # A cutter 6 mm thick gets into none of them: the widest of it is where it goes round the end of the tongue.
    gaps = tight_gaps(Outline(plate.outer, cut), 6)
    assert len(gaps) == 5 and all(5.6 <= gap.distance < 6 for gap in gaps)


def test_corners_tips_and_rounds_are_no_webs():
    star = [(10 if k % 2 else 30) * complex(math.cos(k * math.pi / 5), math.sin(k * math.pi / 5)) for k in range(10)]
    assert not necks(outline(*((p.real, p.imag) for p in star)), 2.0)
    for corners in ("1", "0.4", "3"):
        rounded = part("tag", 60, 30, corners=[{"corner": "top left", "kind": "round", "size": corners}])
        assert codes(evaluate(project([rounded]))) == []


@pytest.mark.parametrize(("gap", "told"), [(0.10, True), (0.155, True), (0.165, False), (1, False)])
def test_a_notch_that_the_kerf_does_not_get_into_is_told(gap, told):
    """The kerf of the stock is 0.16 mm."""
    found = evaluate(project([part("plate", 60, 40, cutouts=[slot(gap)])]))
    assert ("narrow-gap" in codes(found)) == told
    if told:
        assert "narrower than the kerf of 0.16 mm" in finding(found, "narrow-gap").text


def test_what_a_cutter_does_not_get_into_is_told_at_shape_and_refused_by_the_proof():
    plate = project([part("plate", 60, 40, cutouts=[slot(3)])])
    for cutter, told in (("3.175 upcut", True), ("1.5875 upcut", False)):
        assert ("narrow-gap" in codes(evaluate(on_router(plate, cutter)))) == told


def test_letters_too_thin_for_their_stock_offer_the_height_that_bears():
    words = {
        "id": "name",
        "hole": {"kind": "text", "text": "SHORE", "height": "9"},
        "origin": "middle",
        "x": "0",
        "y": "0",
    }
    document = project([part("sign", 260, 90, cutouts=[words])])
    found = finding(evaluate(document), "narrow-web")
    [higher] = [mend for mend in found.mends if mend.label.startswith("Letters ") and mend.label.endswith("mm high")]
    mended = apply(document, higher.command)
    assert "narrow-web" not in codes(evaluate(mended))


# Marks


@pytest.mark.parametrize(("x", "told"), [("30", False), ("-3", True), ("48", True)])
def test_a_mark_over_an_opening_or_off_the_part_is_told_where_it_is(x, told):
    eye = {"id": "eye", "hole": {"kind": "round", "diameter": "16"}, "origin": "middle left", "x": "50", "y": "0"}
    eye["origin"] = "left"
    found = evaluate(project([part("tag", 80, 40, cutouts=[eye, text("AB", x, "20", height="6")])]))
    assert ("mark-on-nothing" in codes(found)) == told
    if told:
        place = finding(found, "mark-on-nothing").place
        assert place.part == "tag" or place.id == "tag"
        assert abs(place.x - float(x)) < 14


# Stocks, chains


@pytest.mark.parametrize("material", ["PVC", "polycarbonate", "ABS", "foam"])
def test_what_must_never_be_burnt_is_refused_by_name_on_a_beam_and_cut_by_a_router(material):
    document = project([part("plate", 60, 40)], stocks=[stock(material=material)])
    laser, router = (shipped()[name] for name in ("laser", "router"))
    burnt = document.model_copy(update={"machines": [laser], "machine": laser.id})
    found = evaluate(burnt)
    assert "never-burned" in codes(found)
    laid = burnt.model_copy(update={"layout": next(iter(nest(burnt, found, 0))).layout})
    with pytest.raises(CannotPlan, match=f"Test ply is {material}, and Club laser must never cut that"):
        prepare(laid, found, 0)
    milled = laid_out(on_router(document))
    assert milled.machine == router.id and "never-burned" not in codes(evaluate(milled))
    assert prepare(milled, evaluate(milled), 0).moves


def test_two_stocks_of_one_name_keep_their_own_settings():
    thin, thick = stock("thin", readings=("3",)), stock("thick", readings=("12",))
    both = [one.model_copy(update={"name": "Birch"}) for one in (thin, thick)]
    document = project([part("a", 60, 40, "thin"), part("b", 60, 40, "thick")], stocks=both)
    laser = shipped()["laser"]
    document = laid_out(document.model_copy(update={"machines": [laser], "machine": laser.id}))
    found = evaluate(document)
    speeds = {}
    for index, sheet in enumerate(document.layout.sheets):
        ready = prepare(document, found, index)
        assert ready.stock.id == sheet.stock and ready.thickness == found.stocks[sheet.stock].thickness
        speeds[sheet.stock] = ready.rows[-1].setting.speed
    assert speeds["thin"] == pytest.approx(4 * speeds["thick"], rel=0.02)


def test_a_chain_of_copies_may_end_and_a_ring_of_them_closes():
    from leannotch_core.assembly.notes import assembly_findings
    from leannotch_core.assembly.poses import assemble

    track = project([part("track", 60, 25, count=30)], [splice("track", "right", "track", "left", size="8", depth="6")])
    found = evaluate(track)
    together = assemble(track, found)
    assert assembly_findings(track, found, together) == [] and len(together.joined) == 29


def test_looking_for_a_layout_by_rounds_ends_where_nothing_fits_better():
    big = project([part("plate", 590, 390, count=3)], layout={"margin": "2", "gap": "2"})
    *_, last = nest(big, evaluate(big), rounds=5)
    assert len(last.layout.sheets) == 3
