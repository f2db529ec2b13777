"""A new shape lies where it was drawn, as large as that, and stands from what it was put beside."""

import pytest
from leannotch_core.edits.command import apply
from leannotch_core.edits.shapes.begun import BeginCutOut
from leannotch_core.evaluate import evaluate
from leannotch_core.parts.nine import SHARES
from leannotch_core.parts.shapes.kinds import HOLES

from ...projects import part, project

#: What shows something else is as large as that.
OF_ITSELF = [kind for kind in HOLES if kind not in ("part", "standard", "picture")]

#: Sizes are typed to a tenth of a millimetre or a sixty-fourth of an inch.
ROUNDED = {"mm": 0.1, "in": 25.4 / 64}


def put(kind, document=None, name="new", **at):
    document = document or project([part("plate", 200, 120)])
    after = apply(document, BeginCutOut(do="begin cut-out", part="plate", id=name, kind=kind, at=at))
    return after, next(cut for cut in after.parts[0].cutouts if cut.id == name)


def box_of(document, name="new"):
    return next(shape.box for shape in evaluate(document).parts["plate"].cutouts if shape.id == name)


@pytest.mark.parametrize("unit", ["mm", "in"])
@pytest.mark.parametrize("kind", OF_ITSELF)
@pytest.mark.parametrize(("width", "height"), [(60, 25), (8, 30), (2.2, 2)])
def test_it_fills_the_box_that_was_drawn_and_lies_in_its_middle(kind, width, height, unit):
    document = project([part("plate", 200, 120)], unit=unit)
    after, cut = put(kind, document, x=80, y=50, width=width, height=height)
    left, bottom, right, top = box_of(after)
    assert ((left + right) / 2, (bottom + top) / 2) == pytest.approx((80, 50), abs=1e-3)
    wide, high = right - left, top - bottom
    if "width" in type(cut.hole).model_fields and "height" in type(cut.hole).model_fields:
        assert (wide, high) == pytest.approx((width, height), abs=ROUNDED[unit] / 2 + 1e-6)
    else:
        # It grows alike: one side is filled, and the other at least that.
        assert min(wide / width, high / height) == pytest.approx(1, abs=2 * ROUNDED[unit] / min(width, height))


@pytest.mark.parametrize("kind", OF_ITSELF)
def test_a_press_puts_it_in_its_usual_size(kind):
    usual = HOLES[kind].of("mm", "")
    after, cut = put(kind, x=60, y=40)
    assert cut.hole == usual
    left, bottom, right, top = box_of(after)
    assert ((left + right) / 2, (bottom + top) / 2) == pytest.approx((60, 40), abs=1e-3)


@pytest.mark.parametrize("origin", SHARES)
def test_it_stands_from_what_it_was_put_beside_and_goes_with_the_part(origin):
    after, cut = put("round", x=50, y=30, origin=origin)
    ways = {0: (50, 30), 0.5: (-50, -30), 1: (150, 90)}
    share = complex(SHARES[origin])
    assert (float(cut.x.text), float(cut.y.text)) == (ways[share.real][0], ways[share.imag][1])
    wider = after.parts[0].shape.model_copy(
        update={"width": after.parts[0].shape.width.model_copy(update={"text": "240"})}
    )
    box = box_of(after.model_copy(update={"parts": [after.parts[0].model_copy(update={"shape": wider})]}))
    assert (box[0] + box[2]) / 2 == pytest.approx(50 + 40 * share.real)


def test_it_may_stand_from_another_shape():
    first, _ = put("rectangle", name="first", x=60, y=40, width=20, height=10)
    after, cut = put("round", first, x=60, y=80, origin="middle", x_of="first")
    assert (cut.x_of, cut.x.text, cut.y.text) == ("first", "0", "20")
    assert box_of(after) == pytest.approx((55, 75, 65, 85))


def test_a_part_smaller_than_the_usual_size_takes_what_is_drawn_on_it():
    after, cut = put("rectangle", project([part("plate", 20, 10)]), x=10, y=5, width=6, height=4)
    assert (cut.hole.width.text, cut.hole.height.text, cut.hole.radius.text) == ("6", "4", "1")
    assert not evaluate(after).errors
