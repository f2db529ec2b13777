"""The operator's desk walked through at random: whatever makers and operators do, everything has a way on."""

import contextlib

import pytest
from handin import desk, steps, together
from handin.models import HandIn, Together
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, rule, run_state_machine_as_test
from leannotch_core.document.sheet import CopyOf, LaidSheet, Layout, Placement
from leannotch_core.handin.steps import LAST, STATES, STEPS
from leannotch_core.handin.together import laid_together
from leannotch_core.project.project import read_project

from ..projects import part, project
from ..properties import tried


def plates():
    """Two plates on a sheet, which leave room for those of others."""
    lies = [Placement(part="plate", copy_number=number, sheet=0, x=45 * number - 40, y=5, turn=0) for number in (1, 2)]
    document = project([part("plate", "30", "20", count=2)])
    sheet = LaidSheet(stock=document.stocks[0].id, width=300, height=200)
    return document.model_copy(update={"layout": Layout(sheets=[sheet], placements=lies)})


picks = st.integers(0, 5)
makers = st.sampled_from(["Mo", "Ada"])
copies = st.lists(st.tuples(st.sampled_from(["plate", "n_plate"]), st.integers(1, 3)), max_size=2)


class Desk(RuleBasedStateMachine):
    """Steps as makers and operators take them, most of them refused; a refusal is a sentence and changes nothing."""

    released = 0

    def __init__(self):
        super().__init__()
        Together.objects.all().delete()
        HandIn.objects.all().delete()
        self.document = plates()

    def one(self, pick, **of):
        found = list(HandIn.objects.filter(**of))
        return found[pick % len(found)] if found else None

    def tried(self, act, *given):
        """Takes a step; whether it was taken."""
        before = sorted(HandIn.objects.values_list("pk", "state", "version", "together"))
        try:
            act(*given)
        except steps.DeskRefuses as why:
            assert str(why).endswith(".") and len(str(why)) < 240
            assert sorted(HandIn.objects.values_list("pk", "state", "version", "together")) == before
            return False
        return True

    @rule(
        owner=st.sampled_from(["Mo", "Ada"]),
        key=st.sampled_from(["", "a", "b"]),
        sheets=st.sampled_from([(0,), (0, 0)]),
    )
    def hand_in(self, owner, key, sheets):
        if HandIn.objects.exclude(state__in=LAST).count() > 4:
            return
        known = list(HandIn.objects.filter(key=key)) if key else []
        made = desk.hand_in(desk.WantedSheets("plates", self.document, 1, sheets, owner, key=key))
        # The same order twice, or the same sheet twice in it, is one.
        assert len(made) == 1 and (made == known or not known)

    @rule(pick=picks)
    def hand_in_anew(self, pick):
        if old := self.one(pick):
            self.tried(desk.hand_in, desk.WantedSheets("plates", self.document, 2, (0,), "Mo"), old)

    @rule(pick=picks)
    def take_back(self, pick):
        if one := self.one(pick):
            self.tried(desk.take_back, one, one.version)

    @rule(pick=picks, why=st.sampled_from(["too near", " "]))
    def give_back(self, pick, why):
        if one := self.one(pick):
            self.tried(desk.give_back, one, one.version, why)

    @rule(pick=picks, behind=st.integers(0, 1))
    def tick_and_release(self, pick, behind):
        if one := self.one(pick):
            codes = [check.code for check in desk.looked_at(one).checks]
            if self.tried(desk.tick, one, one.version, codes):
                now = HandIn.objects.get(pk=one.pk)
                # Who looked at it before somebody else's step is told so; a machine takes one sheet at a time.
                free = not HandIn.objects.filter(state="released").exists()
                goes = not behind and not now.together_id and free
                assert self.tried(desk.release, now, now.version - behind) == goes
                Desk.released += goes

    @rule(pick=picks)
    def call_back(self, pick):
        if one := self.one(pick):
            self.tried(desk.call_back, one, one.version)

    @rule(pick=picks, failed=copies)
    def cut(self, pick, failed):
        if one := self.one(pick):
            self.tried(desk.was_cut, one, one.version, [CopyOf(part=p, copy_number=n) for p, n in failed])

    @rule(chosen=st.lists(picks, min_size=1, max_size=3))
    def lay_together(self, chosen):
        found = {one.pk: one for pick in chosen if (one := self.one(pick, state="waiting"))}
        self.tried(together.lay_together, list(found.values()), [one.version for one in found.values()])

    @rule(what=st.sampled_from([together.take_apart, together.release_together, together.call_back_together]))
    def at_together(self, what):
        if made := Together.objects.first():
            self.tried(what, made)

    @rule(picked=st.lists(st.integers(0, 7), max_size=2, unique=True))
    def cut_together(self, picked):
        if made := Together.objects.first():
            lies = read_project(made.document).layout.placements
            failed = [CopyOf(part=p.part, copy_number=p.copy_number) for at in picked for p in lies[at : at + 1]]
            self.tried(together.cut_together, made, failed)

    @invariant()
    def those_laid_together_stand_alike(self):
        for made in Together.objects.all():
            states = set(made.members.values_list("state", flat=True))
            assert len(states) == 1 and states <= {"waiting", "released", "cut"}
        assert all(one.together is None or one.state != "returned" for one in HandIn.objects.all())

    def teardown(self):
        for made in list(Together.objects.all()):
            if not made.members.filter(state="cut").exists():
                with contextlib.suppress(steps.DeskRefuses):
                    together.call_back_together(made)
                together.take_apart(made)
        for one in HandIn.objects.exclude(state__in=LAST):
            waits = desk.call_back(one, one.version) if one.state == "released" else one
            assert desk.take_back(waits, waits.version).state == "taken back"


@pytest.mark.django_db
def test_whatever_is_done_at_the_desk_everything_has_a_way_on(monkeypatch):
    monkeypatch.setattr(together, "laid_together", lambda handed: laid_together(handed, 0.05))
    slow = settings(
        max_examples=tried(12), stateful_step_count=25, deadline=None, suppress_health_check=list(HealthCheck)
    )
    run_state_machine_as_test(Desk, settings=slow)
    assert Desk.released


def test_every_state_but_the_last_has_a_step_on():
    assert {state for step in STEPS.values() for state in step.before} == set(STATES) - LAST
    assert {step.after for step in STEPS.values()} == set(STATES)
