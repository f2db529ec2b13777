"""What a cutter really cuts: of readings on routed parts, by direction, steps and finishing, in paths and proof."""

import pytest
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.hand_over import HandOver
from leannotch_core.edits.command import apply
from leannotch_core.edits.machine import SetCutterWidth
from leannotch_core.edits.measured import MeasureParts, Reading, TakeKerf
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.facts.unknown import UnknownFact
from leannotch_core.handover.proved import proved, written
from leannotch_core.machining.prepared import prepare
from leannotch_core.measured.explained import telling
from leannotch_core.measured.lengths import lengths_of_stock
from leannotch_core.measured.picked_up import picked_up
from leannotch_core.project.cutting import cutter_in_use
from leannotch_core.project.project import read_project

from ...projects import ROOT
from ...shipped import laid_out, on_router

LIAR = shipped()["practice_router"]


def rack(**routing):
    """The shed's boot rack on the router that lies."""
    made = on_router(read_project((ROOT / "demo" / "boot_rack.json").read_bytes()), "6.35 upcut", **routing)
    return made.model_copy(update={"machines": [LIAR], "machine": LIAR.id})


def stock_of(made):
    return made.parts[0].stock


def cut_and_read(made, number):
    result, stock = evaluate(made), stock_of(made)
    asked, day = telling(lengths_of_stock(made, result, stock)), f"measured_{number}"
    cutter = cutter_in_use(made)
    values = picked_up(LIAR.lies, asked, result.stocks[stock].kerf, day, shank=cutter.shank)
    read = [
        Reading(part=one.part, cut_out=one.cut_out, way=one.way, reading=f"{value:.2f}")
        for one, value in zip(asked, values, strict=True)
    ]
    return apply(made, MeasureParts(do="measure parts", id=day, date=f"2026-11-0{number}", readings=read))


def test_after_two_rounds_a_routed_rack_is_as_tight_as_asked():
    made = rack()
    shank = cutter_in_use(made).shank
    for number in (1, 2):
        made = apply(cut_and_read(made, number), TakeKerf(do="take measured kerf", id=f"measured_{number}"))
    cuts = cutter_in_use(made, stock_of(made))
    # An opening gains what its insert loses: a gap is twice as far off as the width.
    assert 2 * abs(cuts.diameter - shank - LIAR.lies.runout) <= 0.02
    assert cuts.shank == shank and made.cutters == rack().cutters
    assert len(made.stock(stock_of(made)).known(LIAR.id).widths) == 1


def width(made, text):
    wide = {"how": "typed", "width": text}
    return apply(made, SetCutterWidth(do="set cutter width", stock=stock_of(made), width=wide))


def test_paths_and_proof_go_by_what_it_cuts():
    made = laid_out(width(rack(), "6.25"))
    result, stock = evaluate(made), stock_of(made)
    assert result.stocks[stock].kerf == 6.25
    ready = prepare(made, result, 0)
    assert ready.plan.rack.cut.diameter == 6.25 and ready.plan.rack.cut.shank == 6.35
    file = written(made, result, ready, "nc", HandOver())
    assert not file.proof.faults
    # The same file, cut by no more than the shank, leaves its parts too small.
    bare = apply(made, SetCutterWidth(do="set cutter width", stock=stock))
    thin = evaluate(bare)
    found = proved(bare, thin, prepare(bare, thin, 0), "nc", [file.data])
    assert any(fault.code == "differs" for fault in found.faults)


def told(made):
    return {one.code: one.text for one in evaluate(made).findings}.get("cutter-width-elsewhere")


def test_another_direction_or_a_finishing_pass_is_another_width_and_that_is_told():
    made = width(rack(), "6.5")
    assert told(made) is None
    for other in ({"direction": "conventional"}, {"finishing": {"text": "0.3"}}):
        routing = made.preparation.routing.model_validate({**made.preparation.routing.model_dump(), **other})
        changed = made.model_copy(update={"preparation": made.preparation.model_copy(update={"routing": routing})})
        assert cutter_in_use(changed, stock_of(made)).diameter == cutter_in_use(made).shank
        assert "its shank" in told(changed)
        # Measured so too, both are known.
        both = width(changed, "6.4")
        assert cutter_in_use(both, stock_of(made)).diameter == 6.4 and told(both) is None
        assert len(both.stock(stock_of(made)).known(LIAR.id).widths) == 2
        # What is not known any more of the one way is still known of the other.
        one_way = apply(both, SetCutterWidth(do="set cutter width", stock=stock_of(made)))
        assert [str(one.at) for one in one_way.stock(stock_of(made)).own(LIAR.id).widths] == ["climb"]


def stepped(made, stepdown):
    stock = made.stock(stock_of(made))
    cutter = made.preparation.routing.cutter
    own = {"operation": "cut", "speed": 40, "power": 16000, "stepdown": stepdown, "cutter": cutter}
    on = stock.known(LIAR.id)
    on = on.model_validate({**on.model_dump(), "settings": [own]})
    return made.model_copy(update={"stocks": [stock.model_copy(update={"on": [on]})]})


def test_between_two_steps_it_is_between_and_beyond_them_the_nearest_with_a_note():
    made = width(stepped(width(rack(), "6.3"), 2), "6.4")
    made = width(stepped(made, 4), "6.5")

    def at(stepdown):
        now = stepped(made, stepdown)
        return cutter_in_use(now, stock_of(made)).diameter, told(now)

    assert at(3) == (pytest.approx(6.45), None)
    assert at(4) == (6.5, None)
    assert at(4.001)[0] == 6.5 and "steps of 4 mm" in at(4.001)[1] and "that width" in at(4.001)[1]


def test_without_a_cutter_there_is_no_width_and_none_of_nothing():
    with pytest.raises(CannotApply, match="No cutter"):
        width(rack().model_copy(update={"machine": ""}), "6.5")
    with pytest.raises(UnknownFact, match="width of the cut"):
        width(rack(), "0")
