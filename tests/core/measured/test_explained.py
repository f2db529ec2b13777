"""What readings say together, held against scipy's least squares, examples by hand, and truths that are known."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.document.measured import MeasuredLength, MeasuredSheet
from leannotch_core.evaluate import evaluate
from leannotch_core.measured.explained import CAUSES, HAND, ROUNDED, USUAL, explained, one_more, row_of, telling
from leannotch_core.measured.gaps import measured_gaps
from leannotch_core.measured.lengths import lengths_of
from scipy.optimize import lsq_linear

from ...projects import demo, part, project
from ...properties import tried


def sheet(*lengths, kerf=0.16):
    return MeasuredSheet(id="first", date="2026-11-03", stock="ply", machine="laser", kerf=kerf, lengths=list(lengths))


def read(meant, reading, cut_out="", along=0.0, face="top", way="across", of="plate", grows=None):
    size = {"text": f"{reading:.4f}".rstrip("0").rstrip(".")}
    place = {"part": of, "cut_out": cut_out, "way": way, "face": face}
    return MeasuredLength(**place, meant=meant, along=along, reading=size, grows=grows)


def as_meant(one):
    return read(one.meant, one.meant, one.cut_out, one.along, way=one.way, of=one.part, grows=one.grows)


def tray_lengths():
    result = evaluate(demo())
    return [length for made in result.parts.values() for length in lengths_of(made)]


def plate_lengths():
    """Those of a plate with four slots each way."""
    long = {"kind": "rectangle", "width": "30", "height": "6"}
    cuts = [cut(f"across_{at}", long, -60 + 40 * at, 30) for at in range(4)]
    cuts += [cut(f"up_{at}", long | {"width": "6", "height": "30"}, -60 + 40 * at, -30) for at in range(4)]
    return lengths_of(evaluate(project([part("plate", 200, 140, cutouts=cuts)])).parts["plate"])


def cut_with(lengths, rng, kerf=0.0, x=0.0, y=0.0, hand=0.015, step=0.01, oval=0.0):
    """What a caliper reads, in a hand that scatters, of lengths that came off a machine with such errors."""
    truth = np.array([kerf, x, y, 0, 0, 0, oval, 0])
    reads = []
    for one in lengths:
        true = one.meant + np.array(row_of(one)) @ truth
        reading = round((true + rng.normal(0, hand)) / step) * step
        reads.append(read(one.meant, reading, one.cut_out, one.along, way=one.way, of=one.part, grows=one.grows))
    return sheet(*reads)


def test_by_hand_a_wider_kerf_makes_outsides_small_and_openings_large_alike():
    outsides = [read(60, 59.95), read(40, 39.95, along=90, way="up")]
    told = explained(sheet(*outsides, read(20, 20.05, "hole"), read(30, 30.05, "slot", along=90)))
    kerf = told.of("kerf")
    assert kerf.value == pytest.approx(0.05, abs=0.004) and kerf.told
    assert not told.of("scale x").told and not told.of("scale y").told


def test_by_hand_a_machine_whose_x_is_a_thousandth_long_makes_all_longer_in_it():
    long = [read(300, 300.3), read(250, 250.25), read(200, 200.2, "slot")]
    true = [read(300, 300, along=90, way="up"), read(200, 200, "slot", along=90, way="up")]
    told = explained(sheet(*long, *true))
    assert told.of("scale x").value == pytest.approx(0.001, abs=0.0002) and told.of("scale x").told
    assert not told.of("kerf").told and not told.of("scale y").told


def test_a_lower_face_tells_the_taper():
    above = [read(60, 60), read(20, 20, "hole"), read(40, 40, along=90)]
    below = [read(60, 60.12, face="bottom"), read(20, 19.88, "hole", face="bottom")]
    told = explained(sheet(*above, *below, read(40, 40.12, along=90, face="bottom")))
    assert told.of("taper").value == pytest.approx(-0.12, abs=0.01) and told.of("taper").told
    assert not told.of("kerf").told


numbers = st.floats(-0.2, 0.2)


@settings(max_examples=tried(30), deadline=None)
@given(st.lists(st.tuples(st.floats(10, 400), numbers, st.booleans(), st.floats(0, 180)), min_size=3, max_size=16))
def test_it_is_what_the_least_squares_of_scipy_are_with_the_usual_as_readings_more(rows):
    lengths = [read(meant, meant + off, "hole" if opening else "", along) for meant, off, opening, along in rows]
    told = explained(sheet(*lengths))
    kept = [one for one in told.reads if one.left_out is None]
    matrix = [row_of(one.length) for one in kept]
    if not told.of("oval").known:
        matrix = [[*row[:-2], 0.0, 0.0] for row in matrix]
    off = [one.value - one.length.meant for one in kept]
    usual = [[told.spread / USUAL[cause] * (at == of) for of in range(len(CAUSES))] for at, cause in enumerate(CAUSES)]
    judged = lsq_linear(np.array([*matrix, *usual]), np.array([*off, *([0.0] * len(CAUSES))]))
    for at, cause in enumerate(CAUSES):
        assert told.of(cause).value == pytest.approx(judged.x[at], abs=1e-7)


def test_estimates_are_as_sure_as_they_say_for_95_of_100_truths():
    rng = np.random.default_rng(31)
    lengths = telling(tray_lengths())
    hits = {"kerf": 0, "scale x": 0, "scale y": 0}
    truths = 500
    for _ in range(truths):
        kerf, x, y = rng.normal(0, 0.06), rng.normal(0, 0.001), rng.normal(0, 0.001)
        told = explained(cut_with(lengths, rng, kerf, x, y, hand=rng.uniform(0.005, 0.02)))
        for cause, true in (("kerf", kerf), ("scale x", x), ("scale y", y)):
            hits[cause] += abs(told.of(cause).value - true) <= told.of(cause).sure
    assert all(hit >= 0.95 * truths for hit in hits.values()), hits


def test_a_beam_that_is_wider_one_way_is_told_by_many_lengths_both_ways_as_surely_as_it_says():
    rng = np.random.default_rng(57)
    few, many = telling(tray_lengths()), plate_lengths()
    truths, hits, known = 300, 0, 0
    for _ in range(truths):
        oval, hand = rng.normal(0, 0.03), rng.uniform(0.005, 0.02)
        told = explained(cut_with(many, rng, rng.normal(0, 0.06), rng.normal(0, 0.001), hand=hand, oval=oval)).of(
            "oval"
        )
        hits += abs(told.value - oval) <= told.sure
        known += told.known
    assert hits >= 0.95 * truths and known >= 0.9 * truths, (hits, known)
    assert not explained(cut_with(few, rng, oval=0.06, hand=0.02)).of("oval").told


def test_two_readings_make_no_estimate_surer_than_a_caliper_and_a_hand_are():
    told = explained(sheet(read(60, 59.97), read(20, 20.03, "hole")))
    # Student's t with 4 degrees of freedom is 2.776 (tables); two readings halve the variance at the best.
    assert told.of("kerf").sure > 2.0 * HAND / math.sqrt(2)
    assert told.of("scale y").sure > USUAL["scale y"]
    exact = explained(sheet(*[read(60, 60, along=0) for _ in range(50)]))
    assert exact.spread >= ROUNDED == pytest.approx(0.01 / math.sqrt(12))


IMPOSSIBLE = [
    (60 / 25.4, "inches"),
    (600, "ten times"),
    (6.0, "ten times"),
    (40.02, "another length"),
    (55, "far off"),
    (60.3, "disagrees"),
]


@pytest.mark.parametrize(("reading", "why"), IMPOSSIBLE)
def test_what_cannot_be_is_left_out_and_said_and_changes_nothing(reading, why):
    rest = [read(40, 40.01, along=90, way="up"), read(20, 20.01, "a"), read(30, 30.0, "b"), read(50, 49.99, of="lid"),
            read(80, 79.99, of="lid", along=90, way="up")]  # fmt: skip
    told = explained(sheet(read(60, reading), *rest))
    assert [one.left_out for one in told.reads] == [why, None, None, None, None, None]
    assert told.estimates == explained(sheet(*rest)).estimates


def test_an_opening_is_asked_for_where_outsides_alone_cannot_tell_kerf_from_scale():
    result = evaluate(demo())
    lengths = tray_lengths()
    outsides = [one for one in lengths if one.grows < 0]
    chosen = telling(outsides, 3)
    more = one_more(
        [read(one.meant, one.meant, along=one.along, way=one.way, of=one.part, grows=one.grows) for one in chosen],
        lengths,
    )
    assert more is not None and not more.grows < 0 and more.part in result.parts
    # Once it is measured nothing tells so much more.
    again = [*chosen, more]
    reads = [
        read(one.meant, one.meant, one.cut_out, one.along, way=one.way, of=one.part, grows=one.grows) for one in again
    ]
    assert one_more(reads, lengths) is None


def test_the_most_telling_lengths_are_both_ways_both_kinds_and_long():
    chosen = telling(tray_lengths())
    assert len(chosen) == 6
    assert {one.grows < 0 for one in chosen} == {True, False}
    assert {one.way for one in chosen} >= {"across", "up"}
    assert max(one.meant for one in chosen) == pytest.approx(240)


def cut(cut_id, hole, x, y):
    place = {"point": "middle", "origin": "middle", "x": str(x), "y": str(y)}
    return {"id": cut_id, "does": "cut out", "hole": hole, **place}


#: Told by tests of their own.
BESIDES = ("web right", "web above", "thickness")


def test_lengths_are_those_between_straight_sides_and_round_holes():
    cuts = [
        cut("round", {"kind": "round", "diameter": "12"}, -20, 0),
        cut("slot", {"kind": "rectangle", "width": "20", "height": "6"}, 15, 0),
        cut("small", {"kind": "round", "diameter": "3"}, 0, 20),
    ]
    made = evaluate(project([part("plate", 100, 60, cutouts=cuts)])).parts["plate"]
    found = {(one.cut_out, one.way): one for one in lengths_of(made, 90) if one.way not in BESIDES}
    assert {key: round(one.meant, 6) for key, one in found.items()} == {
        ("", "across"): 100, ("", "up"): 60, ("", "rising"): 116.619038, ("", "falling"): 116.619038,
        ("round", "across"): 12, ("slot", "across"): 20, ("slot", "up"): 6,
    }  # fmt: skip
    assert found["", "across"].along == 90 and found["", "up"].along == 180
    assert abs(found["slot", "across"].end - found["slot", "across"].start) == pytest.approx(20)


def test_by_hand_a_wider_kerf_takes_both_sides_off_the_corners_of_a_diagonal():
    made = evaluate(project([part("plate", 40, 30)])).parts["plate"]
    smaller = evaluate(project([part("plate", 39.9, 29.9)])).parts["plate"]
    (was, now) = ({one.way: one for one in lengths_of(plate)} for plate in (made, smaller))
    for way in ("rising", "falling"):
        assert was[way].meant == pytest.approx(50) and was[way].grows == pytest.approx(-1.4)
        assert now[way].meant - was[way].meant == pytest.approx(-0.14, abs=1e-4)


def test_diagonals_tell_a_machine_that_is_out_of_square():
    told = explained(
        sheet(
            *[read(300, 300), read(200, 200, along=90, way="up")],
            *[read(360.555, 360.63, along=33.69, way="rising"), read(360.555, 360.48, along=-33.69, way="falling")],
            *[read(20, 20, "hole"), read(20, 20, "slot", along=90)],
        )
    )
    # g sin a cos a of 360.6 mm is 166 g: 0.075 mm is 0.00045.
    assert told.of("squareness").value == pytest.approx(0.00045, abs=0.00004) and told.of("squareness").told
    assert not told.of("scale x").told and not told.of("kerf").told


def test_fingers_and_notches_are_among_the_lengths_with_the_side_that_they_are_at():
    document = demo()
    result = evaluate(document)
    floor = {one.called: one for one in lengths_of(result.parts["floor"], 0, result.ledger)}
    openings = {row.opening for row in result.ledger if row.opening_part == "floor"}
    for side in ("left", "bottom", "right", "top"):
        assert floor[f"Floor: opening at the {side}"].meant in openings
        assert floor[f"Floor: finger at the {side}"].grows == -1 and floor[f"Floor: opening at the {side}"].grows == 1
    places = [(one.way, one.start) for one in floor.values()]
    assert len(set(places)) == len(places)


@settings(max_examples=tried(20), deadline=None)
@given(st.floats(20, 200), st.floats(20, 200), st.floats(5, 15))
def test_whatever_the_size_a_length_is_as_long_as_its_ends_are_apart_and_they_lie_on_the_edge(wide, high, hole):
    round_one = cut("hole", {"kind": "round", "diameter": f"{hole:.3f}"}, 0, 0)
    made = evaluate(project([part("plate", round(wide, 3), round(high, 3), cutouts=[round_one])])).parts["plate"]
    found = [one for one in lengths_of(made) if one.way not in BESIDES]
    assert len(found) == 5
    for one in found:
        assert abs(one.end - one.start) == pytest.approx(one.meant, abs=1e-9)
        loop = made.outline.outer if one.grows < 0 else made.outline.cutouts[0]
        left, bottom, right, top = loop.bounds
        assert left - 1e-9 <= one.start.real <= right + 1e-9 and bottom - 1e-9 <= one.end.imag <= top + 1e-9


def test_after_two_rounds_every_fit_of_the_tray_is_as_asked_for_95_of_100_truths():
    """A gap is wrong by twice what the kerf is: an opening gains what its insert loses."""
    rng = np.random.default_rng(7)
    lengths = telling(tray_lengths())
    good, truths = 0, 300
    for _ in range(truths):
        true, scale, thought = 0.2 + rng.uniform(-0.1, 0.1), rng.normal(0, 0.0005), 0.16
        rounds = []
        for _ in range(2):
            now = cut_with(lengths, rng, true - thought, scale, hand=0.012)
            now = now.model_copy(update={"kerf": thought})
            told = explained(now, rounds).of("kerf")
            thought += told.value
            rounds.append(now)
        good += 2 * abs(true - thought) <= 0.02
    assert good >= 0.95 * truths


def test_readings_of_another_day_are_counted_in_where_they_agree_and_told_where_they_do_not():
    def day(date, wider, kerf=0.16):
        cut = [read(60, 60 - wider), read(40, 40 - wider, along=90, way="up"), read(20, 20 + wider, "hole")]
        return sheet(*cut, kerf=kerf).model_copy(update={"date": date})

    # The second file was written for the kerf that the first told: the same cut is as it was meant then.
    now = day("2026-11-20", 0.0, kerf=0.2)
    both = explained(now, [day("2026-11-03", 0.04)])
    assert both.beside == ("2026-11-03",) and both.against is None
    assert (
        both.of("kerf").value == pytest.approx(0, abs=0.003) and both.of("kerf").sure < explained(now).of("kerf").sure
    )
    changed = explained(day("2026-11-20", 0.12), [day("2026-11-03", 0.0)])
    assert changed.beside == () and changed.against == "2026-11-03"
    assert changed.estimates == explained(day("2026-11-20", 0.12)).estimates


def test_gaps_are_as_much_wider_as_openings_gained_and_what_was_cut_into_them_lost():
    document = demo()
    cut = [read(240, 239.95, of="floor"), read(45, 44.95, of="long_wall", along=90, way="up")]
    cut += [read(180, 179.95, of="floor", along=90, way="up")]
    cut += [read(16, 16.05, "grip", of="end_wall", along=90, way="up")]
    told = sheet(*cut).model_copy(update={"stock": "birch", "machine": document.machine})
    document = document.model_copy(update={"measured": [told]})
    result = evaluate(document)
    wider = explained(told).of("kerf").value
    assert wider == pytest.approx(0.05, abs=0.004)
    gaps = measured_gaps(document, result)
    fingers = [(row, gap) for row, gap in zip(result.ledger, gaps, strict=True) if row.kind == "finger"]
    assert fingers and all(gap == pytest.approx((row.gap + 2 * wider,) * 2) for row, gap in fingers)
    # Nothing was measured of the acrylic, and of no stock before.
    assert any(gap is None for row, gap in zip(result.ledger, gaps, strict=True) if row.kind != "finger")
    assert set(measured_gaps(demo(), result)) == {None}


def test_webs_are_between_straight_sides_beside_each_other_and_lose_a_kerf():
    slot = {"kind": "rectangle", "width": "20", "height": "10"}
    cuts = [
        cut("left", slot, -25, 0),
        cut("right", slot, 5, 3),
        cut("round", {"kind": "round", "diameter": "8"}, 35, 0),
    ]
    made = evaluate(project([part("plate", 100, 60, cutouts=cuts)])).parts["plate"]
    webs = {(one.cut_out, one.way): one for one in lengths_of(made) if one.way.startswith("web")}
    sizes = {which: round(one.meant, 6) for which, one in webs.items()}
    # Over the round hole, which has no straight side, to the edge of the part.
    assert sizes == {
        ("left", "web right"): 10, ("left", "web above"): 25, ("right", "web right"): 35, ("right", "web above"): 22,
    }  # fmt: skip
    assert {one.grows for one in webs.values()} == {-1.0}
    between = webs["left", "web right"]
    assert (between.start, between.end) == (35 + 31.5j, 45 + 31.5j)
    # Cut 0.05 wider than was thought, each is that much narrower.
    read_webs = [
        read(one.meant, one.meant - 0.05, one.cut_out, one.along, way=one.way, grows=one.grows) for one in webs.values()
    ]
    told = explained(sheet(*read_webs, read(100, 99.95), read(20, 20.05, "left")))
    assert told.of("kerf").told and told.of("kerf").value == pytest.approx(0.05, abs=0.005)


def test_parts_that_are_thicker_than_their_stock_are_told_by_what_runs_through_them_and_leave_the_kerf_alone():
    flat = [read(60, 59.95), read(40, 39.95, along=90, way="up"), read(20, 20.05, "hole"), read(30, 30.05, "slot", 90)]

    def through(*readings):
        kept = {"way": "thickness", "meant": 3.07, "along": 0, "grows": 0, "through": 1}
        texts = zip(("plate", "lid", "fin"), readings, strict=False)
        return [MeasuredLength(part=of, reading={"text": text}, **kept) for of, text in texts]

    thick = through("3.16", "3.17", "3.18")
    told, alone = explained(sheet(*flat, *thick)), explained(sheet(*flat))
    assert told.of("thickness").told and told.of("thickness").value == pytest.approx(0.10, abs=0.01)
    assert told.of("kerf").value == pytest.approx(alone.of("kerf").value, abs=0.002)
    assert not alone.of("thickness").known and not explained(sheet(*flat, thick[0])).of("scale x").told
    # Another sheet of that stock has a thickness of its own.
    other = sheet(*flat, *through("2.9", "2.9", "2.9"))
    both = explained(sheet(*flat, *thick), [other.model_copy(update={"id": "before", "date": "2026-11-02"})])
    assert both.beside == ("2026-11-02",)
    assert both.of("thickness").value == pytest.approx(0.10, abs=0.01)
