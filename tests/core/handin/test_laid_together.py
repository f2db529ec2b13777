"""Sheets of several makers on one: what is done to each part stays what its maker handed in."""

from collections import Counter

import pytest
from leannotch_core.evaluate import evaluate
from leannotch_core.handin.together import CannotLay, Handed, laid_together
from leannotch_core.machining.plan import plan_sheet

from ...projects import part, project, stock, text
from ...shipped import laid_out, projects


def done_to(document, index=0):
    """What is done on a sheet: for each name of a part, operation, depth and setting how many mm, and how its sheet is
    opened: the areas of its pockets with their depths.
    """
    result = evaluate(document)
    assert not result.errors
    lengths, sunk = Counter(), Counter()
    for job in plan_sheet(document, result, index).jobs:
        made = result.parts[job.key.part]
        own = tuple((one.operation, one.speed, one.power) for one in made.part.settings)
        for path in job.paths:
            lengths[made.part.name, path.operation, own] += sum(segment.length for segment in path.segments)
    for placement in document.layout.placements:
        if placement.sheet == index and not placement.cut:
            for pocket in result.parts[placement.part].pockets:
                sunk[result.parts[placement.part].part.name, round(pocket.depth, 3)] += pocket.outline.area
    return lengths, sunk


def same(document, index=0):
    together = laid_together([Handed(1, "A", document, index)], 0).project
    for was, now in zip(done_to(document, index), done_to(together), strict=True):
        # Sizes are typed to a millionth of a mm, and corners rounded to it.
        assert dict(now) == pytest.approx(dict(was), abs=0.01, rel=1e-5)


#: Its ears are bent between reliefs, with the sheet going on behind these.
BENT_IN_PART = "drip_bracket"


@pytest.mark.parametrize("name", [name for name in projects() if name != BENT_IN_PART])
def test_what_is_done_to_each_shipped_part_stays_the_same(name):
    document = laid_out(projects()[name])
    for index in range(len(document.layout.sheets)):
        same(document, index)


def test_what_cannot_be_held_fast_as_it_is_is_refused_with_its_number():
    with pytest.raises(CannotLay, match=r"Number 7 cannot be laid with others: Drip bracket, bend .* Cut it alone."):
        laid_together([Handed(7, "A", laid_out(projects()[BENT_IN_PART]), 0)], 0)


def ring(depth=None, does="pocket"):
    hole = {"kind": "annulus", "diameter": "24", "inner": "12"}
    return {"id": "ring", "hole": hole, "origin": "middle", "x": "0", "y": "10", "does": does} | (
        {"depth": depth} if depth else {}
    )


OWN = {"operation": "cut", "speed": 9, "power": 60}

#: What a part may have beside its outline and its holes.
PARTS = {
    "a pocket with an island": part("a", 80, 60, cutouts=[ring("1.2")]),
    "filled letters": part("a", 80, 60, cutouts=[text("Bod", "40", "15", does="fill", font="plain", height="9")]),
    "a filled ring": part("a", 80, 60, cutouts=[ring(does="fill")]),
    "engraved letters": part("a", 80, 60, cutouts=[text("Bod", "40", "15", does="engrave")]),
    "an outline that is scored": part("a", 80, 60, edge="score"),
    "an outline that is not cut": part("a", 80, 60, edge="nothing", cutouts=[ring(does="cut out")]),
    "settings of its own": part("a", 80, 60, settings=[OWN]),
}


@pytest.mark.parametrize("names", ["score", "leave out"])
@pytest.mark.parametrize("what", PARTS)
def test_what_is_on_a_part_stays_the_same(what, names):
    same(laid_out(project([PARTS[what]], hand_over={"names": names})))


def test_each_makers_own_word_on_names_holds():
    named = laid_out(project([part("a", 80, 60)], hand_over={"names": "score"}))
    bare = laid_out(project([part("b", 80, 60)], hand_over={"names": "leave out"}))
    for handed in ((named, bare), (bare, named)):
        together = laid_together([Handed(at, "M", one, 0) for at, one in enumerate(handed, 1)], 0).project
        lengths, _ = done_to(together)
        assert {name for name, operation, _ in lengths if operation == "score"} == {"A"}


def test_sheets_of_other_stock_and_more_than_fits_are_refused_with_their_numbers():
    one = laid_out(project([part("a", 80, 60)]))
    thicker = laid_out(project([part("a", 80, 60)], stocks=[stock(readings=("3.13",))]))
    with pytest.raises(CannotLay, match=r"Number 2 is of Test ply, 3.13 mm; number 1 of Test ply, 3.07 mm"):
        laid_together([Handed(1, "A", one, 0), Handed(2, "B", thicker, 0)], 0)
    alike = laid_out(project([part("a", 80, 60)], stocks=[stock(readings=("3.11",))]))
    assert len(laid_together([Handed(1, "A", one, 0), Handed(2, "B", alike, 0)], 0).came_from) == 2
    full = laid_out(project([part("a", 280, 190, count=3)]))
    with pytest.raises(CannotLay, match="3 of 6 parts fit on one sheet of 600 x 400 mm"):
        laid_together([Handed(1, "A", full, 0), Handed(2, "B", full, 0)], 0)
