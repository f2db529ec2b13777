"""The hand-in queue: sheets kept as they were handed in, each step once, and who is let in from elsewhere."""

import json
from datetime import timedelta

import pytest
from device import machine
from device.models import Device
from django.test import Client
from django.utils import timezone
from handin import desk, gate, together
from handin.models import HandIn, Together
from leannotch_core.edits.stock import PutStock
from workshop import revisions
from workshop.demo import load_demo
from workshop.models import LibraryMachine, ShelfOffcut, StoredProject

from .calls import fresh_key, watched

HEAD = {"content_type": "application/json"}
TRAY = "sorting-tray"


def post(client, path, status=200, **body):
    answer = client.post(f"/api/{path}", json.dumps(body), **HEAD)
    assert answer.status_code == status, answer.content[:400]
    return answer.json()


def handed(client, owner="Mo", **more):
    [one] = post(
        client,
        f"projects/{TRAY}/hand-in",
        201,
        **{"sheets": [1], "owner": owner, "group": "shore", "key": fresh_key(), **more},
    )
    return one


def tags(client, owner):
    """A few tags of a sheet, which leave room for those of others."""
    [one] = post(client, "projects/stake-tags/hand-in", 201, sheets=[1], owner=owner, group="shore", key=fresh_key())
    return one


def ticked(client, one):
    looked = client.get(f"/api/queue/{one['number']}").json()
    codes = [check["code"] for check in looked["sheet"]["checks"]]
    return post(client, f"queue/{one['number']}/ticks", version=one["version"], ticks=codes)["shown"]


def test_what_was_handed_in_stays_as_it_was(client, tray):
    one = handed(client, due="2026-12-01")
    before = client.get(f"/api/queue/{one['number']}").json()["sheet"]
    project = client.get(f"/api/projects/{TRAY}").json()
    post(
        client,
        f"projects/{TRAY}/edit",
        version=project["version"],
        command={"do": "rename project", "name": "Renamed"},
    )
    now = client.get(f"/api/queue/{one['number']}").json()
    assert now["sheet"] == before and now["shown"]["project_name"] != "Renamed"
    assert {check["code"] for check in now["sheet"]["checks"]} == {
        "size", "stock", "bed", "closed", "doubles", "text", "web", "kerf", "proof",
    }  # fmt: skip
    assert one["facts"]["seconds"] > 0 and one["facts"]["faults"] == 0


def test_what_each_maker_takes_follows_the_rates_and_what_went_back_takes_nothing(client, tray):
    one, other = handed(client, due="2020-01-01"), handed(client, owner="Ida", due="2999-01-01")
    [mo] = [row for row in client.get("/api/queue").json()["makers"] if row["owner"] == "Mo"]
    assert (mo["sheets"], mo["cut"], mo["late"], mo["total"]) == (1, 0, 1, 0) and mo["lacking"] > 1
    assert mo["seconds_left"] == one["facts"]["seconds"]
    machine = one["facts"]["machine"]
    client.put("/api/rates", json.dumps({"driver": "machine", "name": machine, "worth": 36}), **HEAD)
    rows = {row["owner"]: row for row in client.get("/api/queue").json()["makers"]}
    # 36 an hour is a hundredth a second, on the machine's own clock; both handed in the same sheet.
    assert rows["Mo"]["total"] == pytest.approx(one["facts"]["seconds"] / 100)
    assert rows["Ida"]["total"] == rows["Mo"]["total"] and rows["Ida"]["late"] == 0
    post(client, f"queue/{other['number']}/return", version=other["version"], why="a gap is too narrow")
    assert [row["owner"] for row in client.get("/api/queue").json()["makers"]] == ["Mo"]


def test_what_is_good_is_taken_in_one_press_but_for_what_is_looked_at_by_hand(client, tray):
    one = handed(client)
    looked = client.get(f"/api/queue/{one['number']}").json()
    codes = [check["code"] for check in looked["sheet"]["checks"]]
    bad = [check["code"] for check in looked["sheet"]["checks"] if not check["good"]]
    # To begin with all of them are made by hand: nothing is taken.
    assert sorted(looked["by_hand"]) == sorted(codes)
    took = post(client, f"queue/{one['number']}/take-good", version=one["version"])
    assert took["ticks"] == []
    kept = client.put("/api/desk/by-hand", json.dumps({"codes": ["text", "web"]}), **HEAD).json()
    assert kept == ["text", "web"]
    ticked = post(client, f"queue/{one['number']}/ticks", version=took["shown"]["version"], ticks=["web"])
    took = post(client, f"queue/{one['number']}/take-good", version=ticked["shown"]["version"])
    # What was ticked stays so; what is not good is for somebody to look at, whatever was chosen.
    assert took["by_hand"] == ["text", "web"]
    assert took["ticks"] == sorted(set(codes) - {"text"} - set(bad))
    assert (
        "Not all is ticked yet"
        in post(client, f"queue/{one['number']}/release", 422, version=took["shown"]["version"])["message"]
    )
    assert client.put("/api/desk/by-hand", json.dumps({"codes": ["anything"]}), **HEAD).status_code == 422
    assert client.put("/api/desk/by-hand", json.dumps({"codes": codes}), **HEAD).json() == sorted(codes)


def test_it_is_released_once_all_is_ticked_and_the_machine_takes_it(client, tray):
    one = handed(client)
    said = post(client, f"queue/{one['number']}/release", 422, version=one["version"])["message"]
    assert said.startswith("Not all is ticked yet: Unit and size")
    one = ticked(client, one)
    released = post(client, f"queue/{one['number']}/release", version=one["version"])["shown"]
    assert released["state"] == "released"
    assert Device.objects.get().name.startswith(f"{one['number']}-Mo.")
    # Nobody cuts it twice: it is released already, whoever asks.
    said = post(client, f"queue/{one['number']}/release", 409, version=one["version"])["message"]
    assert "Somebody else has just been at number" in said
    again = post(client, f"queue/{one['number']}/release", 422, version=released["version"])["message"]
    assert "is released; that cannot be done with it now" in again


def released(client, one):
    one = ticked(client, one)
    return post(client, f"queue/{one['number']}/release", version=one["version"])["shown"]


def test_a_machine_has_one_sheet_at_a_time_until_it_is_said_what_came_of_it(client, tray):
    one, other = released(client, handed(client)), ticked(client, handed(client, owner="Ida"))
    said = post(client, f"queue/{other['number']}/release", 422, version=other["version"])["message"]
    assert said.startswith(f"Number {one['number']} is in the Club laser still: say what came of it there")
    assert HandIn.objects.get(pk=other["number"]).state == "waiting" and f"{one['number']}-Mo" in machine.device().name
    post(client, f"queue/{one['number']}/cut", version=one["version"], failed=[])
    assert post(client, f"queue/{other['number']}/release", version=other["version"])["shown"]["state"] == "released"


def test_each_machine_has_its_own_sheet_and_its_own_panel(client, tray):
    # Two profiles of one kind: what is sent to one says nothing of the other.
    one = released(client, handed(client))
    routed = post(client, "projects/boot-rack/hand-in", 201, sheets=[1], owner="Odo", key=fresh_key())[0]
    other = released(client, routed)
    names = {row["called"]: (row["of"], row["file"]) for row in client.get("/api/device").json()["machines"]}
    assert names["Club laser"] == ("club_laser", f"{one['number']}-Mo.nc")
    assert names["Shed router"] == ("shed_router", f"{other['number']}-Odo.nc")
    assert client.get("/api/device").json()["of"] == "shed_router"
    post(client, "device/home?of=club_laser")
    assert client.get("/api/device?of=club_laser").json()["state"] == "ready"
    assert client.get("/api/device?of=shed_router").json()["state"] == "off"
    laser, router = (client.get(f"/api/device/moves?of={of}").json() for of in ("club_laser", "shed_router"))
    assert not laser["z"] and router["z"]
    # What nobody knows is the one that was given a file last; nothing is made of a name.
    assert client.get("/api/device?of=nothing").json()["of"] == "shed_router" and Device.objects.count() == 2


def test_no_more_machines_are_kept_than_there_is_room_for(client, tray, monkeypatch):
    monkeypatch.setattr(machine, "_MACHINES", 2)
    profile = machine.profile_of(machine.device())
    for name in ("one", "two", "three", "two"):
        machine.take(f"{name}.nc", b"G21\nG90\nM2\n", profile.model_copy(update={"id": name}), None)
    assert [one.machine for one in machine.devices()] == ["two", "three"]


# The day


def day(client):
    told = client.get("/api/desk/day").json()
    return {one["machine"]: one["turns"] for one in told["machines"]}, told["others"]


def test_the_day_has_each_machines_sheets_in_order_and_several_on_one_as_one(client, tray):
    one, two = handed(client, owner="Wil", due="2999-01-02"), handed(client, owner="Ida", due="2999-01-01")
    rack = post(client, "projects/boot-rack/hand-in", 201, sheets=[1], owner="Odo", due="2020-01-01", key=fresh_key())[
        0
    ]
    machines, _ = day(client)
    assert [turn["numbers"] for turn in machines["Club laser"]] == [[two["number"]], [one["number"]]]
    assert [turn["late"] for turn in machines["Club laser"] + machines["Shed router"]] == [False, False, True]
    assert machines["Shed router"][0]["seconds"] == rack["facts"]["seconds"]
    released(client, one)
    machines, _ = day(client)
    assert [(turn["numbers"], turn["released"]) for turn in machines["Club laser"]] == [
        ([one["number"]], True), ([two["number"]], False),
    ]  # fmt: skip
    some = [tags(client, owner) for owner in ("Wren", "Tern")]
    made = post(client, "together", 201, numbers=[x["number"] for x in some], versions=[x["version"] for x in some])
    joint = [turn for turn in day(client)[0]["Club laser"] if len(turn["numbers"]) == 2]
    assert [turn["owners"] for turn in joint] == [["Wren", "Tern"]] and made["number"]
    post(client, f"queue/{two['number']}/return", version=two["version"], why="too near")
    assert [two["number"]] not in [turn["numbers"] for turn in day(client)[0]["Club laser"]]


def test_another_machine_is_offered_where_it_could_cut_a_sheet_and_is_known_to(client, tray):
    document = client.get(f"/api/projects/{TRAY}").json()["document"]
    laser = next(one for one in document["machines"] if one["id"] == document["machine"])
    second = {**laser, "id": "pier_laser", "name": "Pier laser"}
    small = {**laser, "id": "pin_laser", "name": "Pin laser", "bed_width": {"text": "399"}}
    for profile in (second, small):
        LibraryMachine.objects.create(name=profile["name"], document=json.dumps(profile))
    [birch] = [one for one in document["stocks"] if one["id"] == "birch"]
    [known] = [one for one in birch["on"] if one["machine"] == "club_laser"]
    also = [{**known, "machine": other} for other in ("pin_laser", "pier_laser")]
    project = StoredProject.objects.get(slug=TRAY)
    assert day(client)[1] == {}
    before = handed(client)
    assert day(client)[1] == {str(before["number"]): []}
    revisions.edit(TRAY, project.version, PutStock(do="put stock", stock={**birch, "on": [known, *also]}))
    one = handed(client)
    assert day(client)[1][str(one["number"])] == [{"id": "pier_laser", "name": "Pier laser"}]


def test_what_was_cut_is_counted_once_in_its_project_and_on_the_shelf(client, tray):
    one = released(client, handed(client))
    copies = client.get(f"/api/queue/{one['number']}").json()["sheet"]["gather"]
    failed = [{"part": copies[0]["part"], "copy_number": copies[0]["copies"][0]}]
    assert client.get("/api/shelf").json() == []
    why = {"failed": failed, "why": " a knot let the beam through not at all "}
    now = post(client, f"queue/{one['number']}/cut", version=one["version"], **why)["shown"]
    # Its maker reads why, until it is cut.
    assert now["why"] == "a knot let the beam through not at all"
    shelf = client.get("/api/shelf").json()
    project = client.get(f"/api/projects/{TRAY}").json()
    assert shelf and {row["came_from"] for row in shelf} == {"Sorting tray"}
    cut = [p for p in project["document"]["layout"]["placements"] if p["cut"]]
    assert len(cut) + len(project["document"]["layout"]["done"]) == sum(len(row["copies"]) for row in copies)
    # What failed is cut from another piece, of which nobody has said what is left.
    again = released(client, now)
    last = post(client, f"queue/{now['number']}/cut", version=again["version"], failed=[])
    assert last["shown"]["why"] == "" and any(line.endswith("through not at all") for line in last["log"])
    assert client.get("/api/shelf").json() == shelf
    assert client.get(f"/api/projects/{TRAY}").json()["version"] == project["version"]


def test_what_was_changed_since_it_was_handed_in_is_counted_on_the_shelf_alone(client, tray):
    one = released(client, handed(client))
    document = client.get(f"/api/projects/{TRAY}").json()
    moved = [{**p, "x": p["x"] + 0.5} for p in document["document"]["layout"]["placements"]]
    place = {"do": "place parts", "placements": moved[:1]}
    answer = client.post(
        f"/api/projects/{TRAY}/edit", json.dumps({"version": document["version"], "command": place}), **HEAD
    )
    assert answer.status_code == 200, answer.content
    post(client, f"queue/{one['number']}/cut", version=one["version"], failed=[])
    now = client.get(f"/api/projects/{TRAY}").json()
    assert now["version"] == answer.json()["version"] and client.get("/api/shelf").json()


def test_sheets_for_two_machines_are_not_laid_together(client, tray):
    one = handed(client)
    other = post(client, "projects/boot-rack/hand-in", 201, sheets=[1], owner="Odo", key=fresh_key())[0]
    body = {"numbers": [one["number"], other["number"]], "versions": [1, 1]}
    said = post(client, "together", 422, **body)["message"]
    assert said.startswith(
        f"Number {other['number']} is for the Shed router, number {one['number']} for the Club laser. Only"
    )


def test_a_sheet_laid_together_is_counted_once_on_the_shelf(client, tray):
    some = [tags(client, owner) for owner in ("Wren", "Tern")]
    made = post(client, "together", 201, numbers=[x["number"] for x in some], versions=[x["version"] for x in some])
    post(client, f"together/{made['number']}/release")
    joint = Together.objects.get()
    document = json.loads(joint.document)
    # Two of them fill the sheet; on a longer one a strip of it stays.
    document["layout"]["sheets"][0]["width"] = 500
    joint.document = json.dumps(document)
    joint.save()
    post(client, f"together/{made['number']}/cut", failed=[])
    [strip] = client.get("/api/shelf").json()
    assert strip["height"] == pytest.approx(199, abs=1.5) and 190 < strip["width"] < 240


def test_a_sheet_whose_offcut_is_gone_waits_behind_the_others(client, tray):
    one, two = handed(client, owner="Wil", due="2999-01-01"), handed(client, owner="Ida")
    for number in (one["number"], two["number"]):
        row = HandIn.objects.get(pk=number)
        row.facts = json.dumps({**json.loads(row.facts), "offcut": "[[0, 0], [300, 0], [0, 200]]"})
        row.save()
    piece = ShelfOffcut.objects.create(
        stock=one["facts"]["stock"], width=300, height=200, outline="[[0, 0], [300, 0], [0, 200]]", came_from="Rack"
    )
    # There is one piece for two: the first has it.
    turns = day(client)[0]["Club laser"]
    assert [(turn["owners"], turn["lacks"]) for turn in turns] == [(["Wil"], False), (["Ida"], True)]
    piece.delete()
    assert [turn["lacks"] for turn in day(client)[0]["Club laser"]] == [True, True]


def test_two_operators_at_once_get_a_clear_answer(client, tray):
    one = ticked(client, handed(client))
    post(client, f"queue/{one['number']}/return", version=one["version"], why="a gap of 2 mm")
    said = post(client, f"queue/{one['number']}/release", 409, version=one["version"])["message"]
    assert "returned: a gap of 2 mm" in said
    assert HandIn.objects.get(pk=one["number"]).state == "returned"


def test_a_returned_one_is_handed_in_anew_and_the_old_one_is_kept(client, tray):
    one = handed(client)
    assert post(client, f"queue/{one['number']}/return", 422, version=one["version"], why=" ")["message"]
    post(client, f"queue/{one['number']}/return", version=one["version"], why="too near")
    fresh = handed(client, instead_of=one["number"])
    rows = {row["number"]: row for row in client.get(f"/api/projects/{TRAY}/hand-ins").json()}
    assert rows[one["number"]]["state"] == "replaced" and rows[one["number"]]["replaced_by"] == fresh["number"]
    back = post(client, f"queue/{fresh['number']}/take-back", version=fresh["version"])
    assert back["state"] == "taken back"
    assert post(client, f"queue/{fresh['number']}/take-back", 422, version=back["version"])["message"]


def test_what_failed_is_cut_again_and_only_that(client, tray):
    one = ticked(client, handed(client))
    one = post(client, f"queue/{one['number']}/release", version=one["version"])["shown"]
    gather = client.get(f"/api/queue/{one['number']}").json()["sheet"]["gather"]
    failed = [{"part": gather[0]["part"], "copy_number": gather[0]["copies"][0]}]
    again = post(client, f"queue/{one['number']}/cut", version=one["version"], failed=failed)
    assert again["shown"]["state"] == "waiting" and again["ticks"] == []
    assert [(row["part"], row["copies"]) for row in again["sheet"]["gather"]] == [(gather[0]["part"], [1])]
    one = ticked(client, again["shown"])
    one = post(client, f"queue/{one['number']}/release", version=one["version"])["shown"]
    assert post(client, f"queue/{one['number']}/cut", version=one["version"])["shown"]["state"] == "cut"


def test_several_are_laid_together_and_each_part_knows_its_owner(client, tray):
    one, other = tags(client, "Mo"), tags(client, "Ada")
    body = {"numbers": [one["number"], other["number"]], "versions": [one["version"], other["version"]]}
    said = post(client, "together", 201, **body)
    sheet = client.get(f"/api/together/{said['number']}").json()
    owners = {row["owner"] for row in sheet["gather"]}
    assert owners == {f"{one['number']}, Mo shore", f"{other['number']}, Ada shore"}
    post(client, f"together/{said['number']}/release")
    assert {HandIn.objects.get(pk=n).state for n in said["members"]} == {"released"}
    first = next(row for row in sheet["gather"] if row["owner"].startswith(f"{one['number']},"))
    failed = [{"part": first["part"], "copy_number": 1}]
    post(client, f"together/{said['number']}/cut", failed=failed)
    assert HandIn.objects.get(pk=one["number"]).state == "waiting"
    assert HandIn.objects.get(pk=other["number"]).state == "cut"


def test_the_operator_sets_holding_tabs_and_the_datum(client, tray):
    one = handed(client)
    holding = {"how": "by count", "count": 3}
    held = post(client, f"queue/{one['number']}/set-up", version=one["version"], holding=holding)
    assert held["sheet"]["holding"]["how"] == "by count" and not held["sheet"]["faults"]
    moved = post(client, f"queue/{one['number']}/set-up", version=held["shown"]["version"], datum="top right")
    assert moved["sheet"]["seconds"] > 0
    assert json.loads(HandIn.objects.get(pk=one["number"]).machine)["datum"] == "top right"


def test_sheets_of_two_stocks_are_not_laid_together(client, tray):
    one = handed(client)
    [tag] = post(client, "projects/stake-tags/hand-in", 201, sheets=[1], owner="Ada", key=fresh_key())
    body = {"numbers": [one["number"], tag["number"]], "versions": [one["version"], tag["version"]]}
    assert "Only sheets of one stock are laid together" in post(client, "together", 422, **body)["message"]


@pytest.mark.parametrize(("sheets", "owner"), [([9], "Mo"), ([1], " ")])
def test_what_cannot_be_handed_in_is_refused_with_a_sentence(client, tray, sheets, owner):
    assert post(client, f"projects/{TRAY}/hand-in", 422, sheets=sheets, owner=owner, key=fresh_key())[
        "message"
    ].endswith(("has 2.", "somebody."))


# Others


@pytest.fixture
def elsewhere(client, settings, db):
    """A caller from elsewhere, once the application is open to others."""
    settings.HOST = "testserver"
    gate.set_word("operator", "the tide is out")
    gate.set_word("maker", "gulls and whelks")
    client.defaults["REMOTE_ADDR"] = "192.0.2.7"
    return client


def said(client, word):
    client.get("/")
    return client.post(
        "/api/enter", json.dumps({"word": word}), **HEAD, headers={"X-CSRFToken": client.cookies["csrftoken"].value}
    )


def test_from_elsewhere_nothing_is_answered_without_a_word(elsewhere):
    assert elsewhere.get("/api/projects").status_code == 401
    assert elsewhere.get("/api/role").json()["role"] == ""
    assert said(elsewhere, "open sesame").status_code == 403


def test_a_maker_hands_in_and_the_operator_alone_is_at_the_desk(tray, elsewhere):
    assert said(elsewhere, "gulls and whelks").json()["role"] == "maker"
    assert elsewhere.get("/api/projects").status_code == 200
    for path in ("queue", "queue/1", "words", "device", "together/1"):
        assert elsewhere.get(f"/api/{path}").status_code == 403, path
    token = {"X-CSRFToken": elsewhere.cookies["csrftoken"].value}
    body = json.dumps({"sheets": [1], "owner": "Mo", "key": fresh_key()})
    # What things are worth is the operator's to say; makers see what follows.
    for path in ("rates", "rates/money", "rates/hand-work"):
        assert elsewhere.put(f"/api/{path}", "{}", **HEAD, headers=token).status_code == 403, path
    assert elsewhere.get("/api/rates").status_code == 200
    path = f"/api/projects/{TRAY}/hand-in"
    [one] = elsewhere.post(path, body, **HEAD, headers=token).json()
    back = json.dumps({"version": one["version"]})
    assert elsewhere.post(f"/api/queue/{one['number']}/take-back", back, **HEAD, headers=token).status_code == 200
    assert said(elsewhere, "the tide is out").json()["role"] == "operator"
    assert elsewhere.get("/api/queue").status_code == 200


def test_a_forged_call_from_elsewhere_is_refused(tray, settings):
    settings.HOST = "testserver"
    gate.set_word("maker", "gulls and whelks")
    caller = Client(enforce_csrf_checks=True, REMOTE_ADDR="192.0.2.7")
    assert said(caller, "gulls and whelks").status_code == 200
    body = json.dumps({"sheets": [1], "owner": "Mo", "key": fresh_key()})
    forged = caller.post(f"/api/projects/{TRAY}/hand-in", body, **HEAD)
    assert forged.status_code == 403 and "own pages only" in forged.json()["message"]


def test_words_are_kept_hashed_and_are_no_two_alike(client, db):
    assert post(client, "words", role="operator", word="the tide is out") == {"operator": True, "maker": False}
    assert "at least 8" in post(client, "words", 422, role="maker", word="whelk")["message"]
    assert "the other word" in post(client, "words", 422, role="maker", word="the tide is out")["message"]
    assert "tide" not in gate.Word.objects.get(role="operator").hashed


def test_what_is_sent_twice_is_handed_in_once(client, tray):
    one = handed(client, sheets=[1, 1], key="a")
    assert handed(client, sheets=[1, 1], key="a")["number"] == one["number"]
    assert HandIn.objects.count() == 1
    # Another sheet is chosen meanwhile, and it is sent again.
    both = post(client, f"projects/{TRAY}/hand-in", 201, sheets=[1, 2], owner="Mo", key="a")
    assert both[0]["number"] == one["number"] != both[1]["number"] and HandIn.objects.count() == 2
    assert handed(client, key="b")["number"] != one["number"]


def test_one_of_several_that_is_taken_back_leaves_the_others_to_be_cut_alone(client, tray):
    one, other = tags(client, "Mo"), tags(client, "Ada")
    body = {"numbers": [one["number"], other["number"]], "versions": [one["version"], other["version"]]}
    said = post(client, "together", 201, **body)
    now = client.get(f"/api/queue/{one['number']}").json()["shown"]
    post(client, f"queue/{one['number']}/take-back", version=now["version"])
    assert client.get(f"/api/together/{said['number']}").status_code == 404
    left = client.get(f"/api/queue/{other['number']}").json()
    assert left["shown"]["state"] == "waiting" and left["shown"]["together"] is None
    assert "laid alone again: number" in left["log"][-1]
    assert post(client, f"queue/{other['number']}/release", version=ticked(client, left["shown"])["version"])


def test_a_sheet_that_is_released_is_called_back_and_only_what_lies_on_it_fails(client, tray):
    one = ticked(client, handed(client))
    one = post(client, f"queue/{one['number']}/release", version=one["version"])["shown"]
    failed = [{"part": "nothing", "copy_number": 1}]
    said = post(client, f"queue/{one['number']}/cut", 422, version=one["version"], failed=failed)["message"]
    assert said == "There is no nothing 1 on that sheet; look at it again."
    back = post(client, f"queue/{one['number']}/call-back", version=one["version"])
    assert (back["shown"]["state"], back["ticks"]) == ("waiting", [])


@pytest.mark.django_db(transaction=True)
def test_nothing_that_takes_long_is_done_while_the_database_is_held(client, monkeypatch):
    load_demo()
    slow = [(desk, "evaluate"), (desk, "prepare"), (desk, "written"), (together, "laid_together"), (machine, "apart")]
    held = watched(monkeypatch, slow)
    desk.looked_as.forget()
    machine._known.clear()
    one, other = tags(client, "Mo"), tags(client, "Ada")
    body = {"numbers": [one["number"], other["number"]], "versions": [one["version"], other["version"]]}
    made = post(client, "together", 201, **body)
    post(client, f"together/{made['number']}/release")
    post(client, f"together/{made['number']}/call-back")
    post(client, f"together/{made['number']}/apart")
    shown = client.get(f"/api/queue/{one['number']}").json()["shown"]
    post(client, f"queue/{one['number']}/release", version=ticked(client, shown)["version"])
    assert {name for name, _ in held} == {"evaluate", "prepare", "written", "laid_together", "apart"}
    assert not any(atomic for _, atomic in held), held


def test_what_nobody_waits_for_is_deleted_had_back_and_gone_after_thirty_days(client, tray):
    one = handed(client)
    path = f"/api/queue/{one['number']}"
    refused = client.delete(f"{path}?version={one['version']}")
    assert refused.status_code == 422
    assert (
        refused.json()["message"] == f"Number {one['number']} is waiting: return it to its maker, and then delete it."
    )
    one = post(client, f"queue/{one['number']}/return", version=one["version"], why="too thin")["shown"]
    assert client.delete(f"{path}?version={one['version'] - 1}").status_code == 409
    queue = client.delete(f"{path}?version={one['version']}").json()
    assert not queue["rows"] and [row["number"] for row in queue["deleted"]] == [one["number"]]
    assert client.get(f"/api/projects/{TRAY}/hand-ins").json() == []
    queue = post(client, f"queue/{one['number']}/restore")
    assert [row["number"] for row in queue["rows"]] == [one["number"]] and not queue["deleted"]
    for days, left in ((29, 1), (31, 0)):
        HandIn.objects.update(deleted=timezone.now() - timedelta(days=days))
        desk.take_away_what_is_over()
        assert HandIn.objects.count() == left
