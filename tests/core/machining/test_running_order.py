"""The order by rule and by hand, what is refused before there is one, and what a stock is cut with to begin with."""

from typing import get_args

import pytest
from leannotch_core.document.preparation import Task
from leannotch_core.document.stock import NEVER_BURNED, Material
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.machining.jobs import Job, JobKey
from leannotch_core.machining.plan import CannotPlan, plan_sheet
from leannotch_core.machining.running_order import by_hand
from leannotch_core.machining.settings import starting

from ...projects import part, project, stock
from .test_machining import laid
from .test_router import ready_of, routed

LASER = shipped()["laser"]


@pytest.mark.parametrize(
    ("wanted", "order"),
    [
        ("", "abcd"),
        # What is not named comes behind what it follows by rule, or before all where that is nothing.
        ("dc", "abdc"),
        ("ca", "cdab"),
        ("b", "abcd"),
        ("dcba", "dcba"),
        # What is no longer there is passed over, and what is named twice comes once.
        ("xdad", "dabc"),
    ],
)
def test_jobs_in_an_order_of_ones_own_take_along_what_follows_them(wanted, order):
    jobs = [Job(JobKey("outer", name, 1), ()) for name in "abcd"]
    tasks = [Task(stage="outer", part=name, copy_number=1) for name in wanted]
    assert "".join(job.key.part for job in by_hand(jobs, tasks)) == order


@pytest.mark.parametrize("material", sorted(NEVER_BURNED))
def test_what_is_never_burned_is_planned_for_a_router_alone(material):
    document = project([part("tag", 60, 30)], stocks=[stock(material=material)], machines=[LASER], machine=LASER.id)
    with pytest.raises(CannotPlan, match=f"is {material}, and {LASER.name} must never cut that"):
        plan_sheet(laid(document), evaluate(document), 0)
    milled = routed([part("tag", 60, 30)], thickness="3")
    milled = milled.model_copy(update={"stocks": [milled.stocks[0].model_copy(update={"material": material})]})
    assert ready_of(milled)[0].rows


@pytest.mark.parametrize("material", get_args(Material))
@pytest.mark.parametrize("thick", ["0.1", "3", "40"])
def test_whatever_the_sheet_it_has_a_setting_to_begin_with(material, thick):
    """What a machine can do: some speed, no more than it has, and some power, no more than all."""
    found = starting(stock(material=material, readings=(thick,), nominal=thick), LASER, "cut")
    assert 0 < found.speed <= LASER.working.speed and 0 < found.power <= 100


@pytest.mark.parametrize(("height", "told"), [("0.1", False), ("17.9", False), ("18", True), ("25", True)])
@pytest.mark.parametrize("how", ["none", "by count"])
def test_holding_tabs_leave_something_and_not_all_of_it(height, told, how):
    holding = {"how": how, "count": 4, "width": "5", "height": height}
    ready, _ = ready_of(routed([part("plate", 90, 60)], holding=holding))
    assert ("tab-height" in {one.code for one in ready.findings}) == (told and how != "none")
