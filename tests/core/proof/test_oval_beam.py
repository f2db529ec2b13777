"""A beam that is wider along y than along x: files make up for it however a part lies, and are proved with it."""

from dataclasses import replace

import pytest
from leannotch_core.document.hand_over import HandOver
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.stock import facts
from leannotch_core.handover.proved import proved, written
from leannotch_core.machining.jobs import BeamOnSheet
from leannotch_core.machining.prepared import prepare
from leannotch_core.proof.sheet_proof import ALLOWED

from ...projects import finger, part, project, stock

ROUND = {"kind": "round", "diameter": "12"}
SLOT = {"kind": "rectangle", "width": "20", "height": "3.17"}


def typed(width):
    return {"how": "typed", "width": width}


def laid(placements, turn=0, **known):
    holes = [{"id": "round", "hole": ROUND, "x": "20", "y": "20"}, {"id": "slot", "hole": SLOT, "x": "50", "y": "30"}]
    parts = [part("plate", 90, 60, cutouts=holes, count=4), part("wall", 90, 30)]
    joints = [finger("plate", "top", "wall", "bottom")]
    made = project(parts, joints, [stock(kerf="0.14", up=typed("0.20"), **known)])
    lying = [{"part": of, "copy_number": n, "sheet": 0, **at} for of, n, at in placements]
    return made.model_copy(
        update={
            "layout": made.layout.model_validate(
                {"sheets": [{"stock": "ply", "width": 600, "height": 400}], "placements": lying}
            ),
            "preparation": made.preparation.model_validate({"on_bed": {"turn": turn}}),
        }
    )


EVERY_WAY = [
    ("plate", 1, {"x": 20, "y": 20, "turn": 0}),
    ("plate", 2, {"x": 250, "y": 20, "turn": 90}),
    ("plate", 3, {"x": 300, "y": 150, "turn": 0, "mirrored": True}),
    ("plate", 4, {"x": 480, "y": 60, "turn": 33}),
    ("wall", 1, {"x": 20, "y": 200, "turn": 270, "mirrored": True}),
]


@pytest.mark.parametrize("kind", ["svg", "dxf"])
@pytest.mark.parametrize("turn", [0, 90, 20])
def test_every_part_comes_out_as_meant_however_it_and_its_sheet_lie(kind, turn):
    document = laid(EVERY_WAY, turn)
    result = evaluate(document)
    ready = prepare(document, result, 0)
    file = written(document, result, ready, kind, document.hand_over)
    assert not file.proof.faults, [fault.text for fault in file.proof.faults]
    assert max(one.deviation for one in file.proof.parts) < ALLOWED / 2
    # Swept as if it were round, the same bytes are wrong by half of what it is wider.
    even = replace(ready, plan=replace(ready.plan, beam=BeamOnSheet(ready.plan.kerf)))
    worst = max(one.deviation for one in proved(document, result, even, kind, [file.data]).parts)
    assert worst == pytest.approx(0.03 / 2, abs=0.004)


def test_what_leans_too_is_proved_on_both_faces():
    document = laid(EVERY_WAY, below=typed("0.25"))
    told = facts(document.stocks[0])
    assert (told.kerf, told.oval) == pytest.approx((0.21, 0.06))
    assert told.walls.faces == pytest.approx((-0.04, 0.04))
    result = evaluate(document)
    file = written(document, result, prepare(document, result, 0), "svg", document.hand_over)
    assert not file.proof.faults, [fault.text for fault in file.proof.faults]
    wide = {face: next(one for one in parts if one.part == "wall") for face, parts in file.proof.faces.items()}
    assert wide["above"].proved_width - wide["below"].proved_width == pytest.approx(0.08, abs=0.002)


def test_where_the_machine_makes_up_for_it_lines_are_on_the_parts():
    document = laid(EVERY_WAY).model_copy(update={"hand_over": HandOver(kerf="at the machine")})
    result = evaluate(document)
    file = written(document, result, prepare(document, result, 0), "svg", document.hand_over)
    assert not file.proof.faults and max(one.deviation for one in file.proof.parts) < 0.001
