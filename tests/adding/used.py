"""What was added, used: run in the copy of the house, with its path, by ``test_adding``."""

from leannotch_core.drawings.formats import read_drawing
from leannotch_core.evaluate import evaluate
from leannotch_core.handover.formats import WRITERS
from leannotch_core.joints.families import FAMILIES
from leannotch_core.joints.picked import Picked
from leannotch_core.layout.nest import nest
from leannotch_core.machining.prepared import prepare
from leannotch_core.parts.shapes.kinds import HOLES

from tests.projects import part, project
from tests.shipped import of_starter


def kite(**sizes):
    hole = HOLES["kite"].begun("mm").model_dump() | {name: {"text": value} for name, value in sizes.items()}
    return {"id": "kite", "hole": hole, "origin": "middle", "x": "0", "y": "0"}


def a_shape_is_drawn_and_says_what_cannot_be():
    [hole] = evaluate(project([part("a", 80, 60, cutouts=[kite()])])).parts["a"].outline.cutouts
    left, bottom, right, top = hole.bounds
    assert (right - left, top - bottom) == (20, 30) and abs(abs(hole.area) - 20 * 30 / 2) < 1e-9
    [finding] = evaluate(project([part("a", 80, 60, cutouts=[kite(waist="31")])])).findings
    assert finding.code == "kite-turned-out" and finding.mends[0].command.value == "15"


def a_family_joins():
    ends = Picked("a", "left", 100, 60, "mm"), Picked("b", "right", 200, 160, "mm")
    joint = FAMILIES["leaning"].begun("fresh", *ends, [])
    result = evaluate(project([part("a", 100, 60), part("b", 200, 160)], [joint.model_dump()]))
    assert not result.errors and {meeting.joint for meeting in result.meetings} == {"fresh"}


def a_starter_is_made():
    document = of_starter("easel")
    assert [one.name for one in document.parts] == ["Board", "Foot"] and not evaluate(document).errors


def an_operation_is_done_and_comes_back_from_every_format():
    document = project([part("a", 80, 60, cutouts=[kite() | {"does": "frost"}])])
    result = evaluate(document)
    laid = document.model_copy(update={"layout": next(iter(nest(document, result, 0))).layout})
    ready = prepare(laid, result, 0)
    assert [row.operation for row in ready.rows] == ["frost", "cut"]
    assert ready.rows[0].setting.speed == 200
    for ending, form in WRITERS.items():
        drawing = read_drawing(form.write(ready, laid.hand_over), f"sheet.{ending}")
        assert {line.layer for line in drawing.lines} >= {"frost", "cut"}, ending


if __name__ == "__main__":
    a_shape_is_drawn_and_says_what_cannot_be()
    a_family_joins()
    a_starter_is_made()
    an_operation_is_done_and_comes_back_from_every_format()
