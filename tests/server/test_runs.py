"""Long work: what the maker did meanwhile stays, and what is said of a run is what becomes of it."""

import pytest
from django.db import connection
from django_tasks_db.models import DBTaskResult
from leannotch_core.edits.command import apply
from leannotch_core.layout.merged import merged
from leannotch_core.layout.nest import Nesting
from people.asking import asked_for
from workshop import long_work, revisions
from workshop.long_work import ask_for, carry_on, work
from workshop.models import Run, StoredProject
from workshop.runs import begin, end, server_starts, stop, wait_for_worker, worker_is_gone

from ..projects import demo
from .calls import edit, post
from .test_commands import COMMANDS

pytestmark = pytest.mark.django_db


def meanwhile(monkeypatch, client, *commands):
    """The maker's edits go in while a nesting is at work, after its first layout."""
    really = long_work.nest

    def nest(document, result, seconds, asked):
        steps = list(really(document, result, 0.2, asked))
        yield steps[0]
        for command in commands:
            version = client.get("/api/projects/sorting-tray").json()["version"]
            answer = edit(client, "sorting-tray", version, command)
            assert answer.status_code == 200, answer.content
        # A layout of its own, so that it is seen whether it was taken.
        found = [p.model_copy(update={"x": p.x + 0.25}) for p in steps[-1].layout.placements]
        yield Nesting(steps[-1].layout.model_copy(update={"placements": found}), 1.0)

    monkeypatch.setattr(long_work, "nest", nest)


def nested(client):
    run = post(client, "projects/sorting-tray/nest", {"seconds": 1}).json()
    return run, client.get("/api/projects/sorting-tray").json()["document"]


def places(layout):
    return {(p["part"], p["copy_number"]): (p["x"], p["y"]) for p in layout["placements"]}


def test_a_layout_is_taken_into_a_project_that_was_changed_meanwhile(client, tray, monkeypatch):
    longer = {"do": "put name", "name": {"name": "tray_length", "size": {"text": "250"}}}
    fewer = {"do": "remove part", "id": "crossways"}
    meanwhile(monkeypatch, client, longer, fewer)
    run, document = nested(client)
    assert run["state"] == "done" and not run["offered"]
    assert document["names"][0]["size"]["text"] == "250" and "crossways" not in {p["id"] for p in document["parts"]}
    found = {key: place for key, place in places(run["nest"]["layout"]).items() if key[0] != "crossways"}
    assert places(document["layout"]) == found
    # The shape that was laid out is the one from before: the layout is told to be out of date.
    assert client.get("/api/projects/sorting-tray").json()["layout_out_of_date"]


BY_HAND = {"part": "floor", "copy_number": 1, "sheet": 0, "x": 40, "y": 20, "turn": 0, "by_hand": True}


@pytest.mark.parametrize(
    "command",
    [
        {"do": "set spacing", "margin": {"text": "9"}, "gap": {"text": "2"}},
        {"do": "place parts", "placements": [BY_HAND]},
    ],
)
def test_a_layout_for_other_spacing_or_places_is_offered_and_overwrites_nothing(client, tray, monkeypatch, command):
    before = places(client.get("/api/projects/sorting-tray").json()["document"]["layout"])
    meanwhile(monkeypatch, client, command)
    run, document = nested(client)
    assert run["state"] == "done" and run["offered"] and "were kept" in run["message"]
    kept = {**before, ("floor", 1): (40, 20)} if command["do"] == "place parts" else before
    assert places(document["layout"]) == kept
    assert document["layout"]["margin"]["text"] == ("9" if command["do"] == "set spacing" else "5")
    assert run["nest"]["layout"]["placements"]


def test_merging_leaves_out_what_the_layout_no_longer_answers():
    began = demo()
    found = began.layout.model_copy(update={"placements": []})
    for command, taken in (
        ({"do": "set unit", "unit": "in"}, True),
        ({"do": "put stock", "stock": began.stocks[0].model_copy(update={"grain": "along height"})}, False),
        ({"do": "set spacing", "margin": {"text": "6"}, "gap": {"text": "2"}}, False),
        ({"do": "remove part", "id": "floor"}, True),
    ):
        now = apply(began, COMMANDS.validate_python(command))
        assert (merged(began, now, found) is not None) == taken, command


def test_a_project_that_is_deleted_while_it_is_laid_out_stays_deleted(client, tray, monkeypatch):
    really = long_work.nest

    def nest(*arguments):
        yield from really(*arguments)
        client.delete("/api/projects/sorting-tray")

    monkeypatch.setattr(long_work, "nest", nest)
    run = post(client, "projects/sorting-tray/nest", {"seconds": 1}).json()
    assert run["state"] == "failed" and run["message"] == "The project was deleted meanwhile."
    assert [kept["slug"] for kept in client.get("/api/deleted").json()] == ["sorting-tray"]


# The state of a run


def test_a_run_that_waits_is_stopped_at_once_and_never_begun(tray):
    run = wait_for_worker(tray, "prove", 0)
    stop(run.id)
    run.refresh_from_db()
    assert (run.state, run.message) == ("stopped", "Stopped before it began.") and not begin(run.id)
    work.func(run.id)
    run.refresh_from_db()
    assert run.state == "stopped" and run.result == ""


def test_what_was_given_up_is_not_called_done_by_a_worker_that_comes_late(tray, monkeypatch):
    monkeypatch.setenv("NOTCH_WORKER", "checks 1")
    run = wait_for_worker(tray, "prove", 0)
    assert begin(run.id) and not begin(run.id) and worker_is_gone("checks 2") == 0
    assert worker_is_gone("checks 1") == 1
    end(run, "done")
    run.refresh_from_db()
    assert run.state == "failed" and run.message.startswith("Its worker ended before it was done.")


def test_a_task_that_was_lost_is_given_again_and_only_then(tray, settings):
    settings.TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": settings.QUEUES}}
    waits, goes_on = ask_for(tray, "prove", 0), ask_for(tray, "nest", 1)
    begin(goes_on.id)
    server_starts()
    carry_on()
    assert [task.args_kwargs["args"] for task in DBTaskResult.objects.filter(queue_name="checks")] == [[waits.id]]
    DBTaskResult.objects.all().delete()
    carry_on()
    assert [task.args_kwargs["args"] for task in DBTaskResult.objects.all()] == [[waits.id]]
    assert Run.objects.get(id=goes_on.id).message.startswith("The server was stopped meanwhile.")


# Two writers


def test_whoever_asks_for_much_keeps_nobody_waiting_for_all_of_it(tray, settings):
    settings.TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": settings.QUEUES}}
    other = revisions.create(demo())
    asked = [ask_for(project, "prove", 0).id for project in (tray, tray, tray, other, other)]
    waits = [task.args_kwargs["args"][0] for task in DBTaskResult.objects.ready()]
    assert waits == [asked[at] for at in (0, 3, 1, 4, 2)]


@pytest.mark.django_db(transaction=True)
def test_a_slow_edit_holds_nobody_up_and_overwrites_nothing(client, monkeypatch):
    """While a slow edit of one project is worked out, nothing is locked: edits of others, and quicker ones of its
    own project, are answered first; the slow one then learns that it came too late."""
    from workshop.demo import load_demo

    load_demo()
    shown = {slug: client.get(f"/api/projects/{slug}").json()["version"] for slug in ("sorting-tray", "lens-stand")}
    really, answered = revisions.evaluate, []

    def slow(document):
        assert not connection.in_atomic_block
        if document.unit == "in" and not answered:
            for slug, version in shown.items():
                name = {"do": "rename project", "name": f"Quick {slug}"}
                answered.append(edit(client, slug, version, name).status_code)
        return really(document)

    monkeypatch.setattr(revisions, "evaluate", slow)
    late = edit(client, "sorting-tray", shown["sorting-tray"], {"do": "set unit", "unit": "in"})
    assert answered == [200, 200] and late.status_code == 409
    assert late.json()["current"]["document"]["name"] == "Quick sorting-tray"
    names = set(StoredProject.objects.values_list("name", flat=True))
    assert {"Quick sorting-tray", "Quick lens-stand"} <= names


@pytest.fixture
def waiting(settings):
    """Runs wait in their queues, and no worker takes them."""
    settings.TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": settings.QUEUES}}


def test_each_makers_first_is_carried_out_before_anybodys_third_and_each_is_told_its_place(
    client, tray, waiting, django_user_model
):
    wren, tern = (django_user_model.objects.create(username=name) for name in ("Wren", "Tern"))
    with asked_for(wren.pk):
        # On two projects of hers: they are hers all the same.
        mine = [ask_for(one, "nest", 1) for one in (*StoredProject.objects.all()[:2], tray)]
    with asked_for(tern.pk):
        theirs = ask_for(tray, "nest", 1)
    proof = ask_for(tray, "prove", 0)
    assert [long_work.ahead_of(one) for one in (mine[0], theirs, mine[1], mine[2], proof)] == [0, 1, 2, 3, 0]
    assert client.get(f"/api/runs/{mine[2].id}").json()["ahead"] == 3
    # What is at work is before all that wait; another queue has its own.
    assert begin(mine[0].id)
    DBTaskResult.objects.filter(args_kwargs__args=[mine[0].id]).delete()
    assert [long_work.ahead_of(Run.objects.get(id=one.id)) for one in (mine[0], theirs, proof)] == [0, 1, 0]


def test_without_names_a_project_counts_as_its_maker(tray, waiting):
    other = StoredProject.objects.exclude(pk=tray.pk).first()
    first, second, another = ask_for(tray, "nest", 1), ask_for(tray, "nest", 1), ask_for(other, "nest", 1)
    assert [long_work.ahead_of(one) for one in (first, another, second)] == [0, 1, 2]
