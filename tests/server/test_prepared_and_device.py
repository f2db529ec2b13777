"""Sheets made ready, sheets that were cut, the offcut shelf, and the simulated machine as others would call it."""

import base64
import csv
import io
import json
import zipfile

import pytest
from device.models import Device
from django.utils import timezone
from leannotch_core.drawings.dxf import read_dxf
from leannotch_core.facts.profiles.shipped import shipped

from ..projects import part
from .calls import edit

HEAD = {"content_type": "application/json"}


def post(client, path, **body):
    return client.post(f"/api/{path}", json.dumps(body), **HEAD)


def test_a_sheet_made_ready_tells_its_rows_and_moves(client, tray):
    told = client.get("/api/projects/sorting-tray/prepared/1").json()
    assert (told["machine"], told["bed_width"], told["chosen"]) == ("Club laser", 600, True)
    assert sum(row["seconds"] for row in told["rows"]) == pytest.approx(told["seconds"])
    jobs = [job for row in told["rows"] for job in row["jobs"]]
    assert jobs == list(range(len(told["jobs"])))
    moves = client.get("/api/projects/sorting-tray/moves/1").json()
    assert moves["ends"][-1] == pytest.approx(told["seconds"], abs=0.001)
    assert len({len(column) for column in moves.values() if column}) == 1 and not moves["z"]
    assert client.get("/api/projects/sorting-tray/prepared/9").json()["message"].startswith("There is no sheet 9")


def test_another_setting_or_machine_changes_the_time_and_the_kerf_at_once(client, tray):
    before = client.get("/api/projects/sorting-tray/prepared/1").json()["seconds"]
    setting = {"operation": "cut", "speed": 8, "power": 90}
    after = edit(
        client, "sorting-tray", tray.version, {"do": "set setting", "stock": "birch", "setting": setting}
    ).json()
    slower = client.get("/api/projects/sorting-tray/prepared/1").json()
    assert slower["seconds"] > 1.9 * before
    router = shipped()["router"].model_dump(mode="json")
    command = {"do": "put machine", "machine": router, "use": True}
    told = edit(client, "sorting-tray", after["version"], command).json()
    # Nothing is known of the birch on the router: that is said, and its beam's kerf is not trusted in silence.
    [warning] = [f for f in told["findings"] if f["code"] == "not-known-on-machine" and f["place"]["id"] == "birch"]
    assert warning["level"] == "warning" and "Shed router" in warning["text"]
    known = {"do": "set known", "stock": "birch", "kerf": {"how": "typed", "width": "3.175"}}
    told = edit(client, "sorting-tray", told["version"], known).json()
    assert told["stocks"]["birch"]["kerf"] == 3.175
    back = edit(client, "sorting-tray", told["version"], {"do": "use machine", "machine": "club_laser"}).json()
    assert back["stocks"]["birch"]["kerf"] == 0.16 and back["stocks"]["birch"]["settings"]


def test_bad_settings_and_machines_are_refused_with_the_number(client, tray):
    for setting, says in (
        ({"operation": "cut", "speed": 0, "power": 10}, "speed is 0, it must be more than 0"),
        ({"operation": "cut", "speed": 10, "power": 140}, "Club laser has at most 100 %; 140 is asked for"),
    ):
        answer = edit(client, "sorting-tray", tray.version, {"do": "set setting", "stock": "birch", "setting": setting})
        assert answer.status_code == 422 and says in answer.json()["message"]
    machine = shipped()["laser"].model_dump(mode="json") | {"least": 50, "most": 10}
    answer = edit(client, "sorting-tray", tray.version, {"do": "put machine", "machine": machine})
    assert "its range runs from 50 to 10" in answer.json()["message"]
    refused = client.post("/api/machines/open", b'{"name": "x"}', content_type="application/octet-stream")
    assert refused.status_code == 422 and "no machine's profile: id is missing" in refused.json()["message"]


def test_a_machines_profile_goes_to_a_file_and_comes_back(client, tray):
    data = client.get("/api/projects/sorting-tray/machines/club_laser/file").content
    opened = client.post("/api/machines/open", data, content_type="application/octet-stream").json()
    assert opened["machine"] == json.loads(data) and opened["lines"] == []
    own = json.dumps(json.loads(data) | {"begins": ["M3 S500", "G1 X40 F600"]})
    burns = client.post("/api/machines/open", own, content_type="application/octet-stream").json()["lines"][1]
    assert (burns["works"], burns["does"]) == (True, "works its way to 40 mm, -1 mm")
    assert post(client, "machines", **(opened["machine"] | {"name": "Another laser"})).json() == {"kept": True}
    kept = client.get("/api/machines").json()
    assert {"Club laser", "Shed router", "Another laser"} <= {machine["name"] for machine in kept}


def test_all_sheets_come_in_a_zip_and_only_chosen_parts_in_a_file(client, tray):
    answer = client.get("/api/projects/sorting-tray/sheets/all.zip?kind=dxf")
    with zipfile.ZipFile(io.BytesIO(answer.content)) as bundle:
        assert bundle.namelist() == [f"sorting-tray-sheet-{n}-club-laser.dxf" for n in (1, 2)]
        lines = len(read_dxf(bundle.read(bundle.namelist()[0])).lines)
    some = client.get("/api/projects/sorting-tray/sheets/1.dxf?only=floor")
    assert len([line for line in read_dxf(some.content).lines if line.layer == "cut"]) == 1 < lines
    assert 'filename="sorting-tray-sheet-1-club-laser-some.dxf"' in some["Content-Disposition"]
    assert client.get("/api/projects/sorting-tray/sheets/1.png").status_code == 422


def test_the_cut_list_has_every_part_with_its_finished_size(client, tray):
    text = client.get("/api/projects/sorting-tray/cut-list.csv").content.decode("utf-8-sig")
    rows = list(csv.DictReader(io.StringIO(text)))
    floor = next(row for row in rows if row["part"] == "Floor")
    assert (floor["count"], floor["width mm"], floor["height mm"], floor["sheets"]) == ("1", "240.00", "180.00", "1")
    assert sum(int(row["count"]) for row in rows) == 8


def test_a_sheet_that_was_cut_is_counted_and_what_remains_is_laid_on_first(client, tray):
    told = post(client, "projects/sorting-tray/sheets/1/cut", version=tray.version).json()
    assert len(told["document"]["layout"]["done"]) == 5 and not told["layout_out_of_date"]
    [offcut] = client.get("/api/shelf").json()
    assert (offcut["stock"], offcut["came_from"]) == ("Birch ply 3 mm", "Sorting tray")
    # A small part is wanted besides: it lies on the offcut, and what remains of that goes back to the shelf.
    tag = part("tag", 40, 30, "birch")
    told = edit(client, "sorting-tray", told["version"], {"do": "put part", "part": tag}).json()
    stock = next(s for s in told["document"]["stocks"] if s["id"] == "birch")
    size = {name: f"{offcut[name]:.4f}" for name in ("width", "height")}
    sheet = {**size, "at_hand": 1, "worth": 0, "outline": offcut["outline"]}
    put = {"do": "put stock", "stock": stock | {"sheets": [sheet, *stock["sheets"]]}}
    told = edit(client, "sorting-tray", told["version"], put).json()
    copies = [{"part": "tag", "copy_number": 1}]
    told = edit(client, "sorting-tray", told["version"], {"do": "lay again", "copies": copies}).json()
    assert [s["outline"] != [] for s in told["document"]["layout"]["sheets"]] == [False, True]
    told = post(client, "projects/sorting-tray/sheets/2/cut", version=told["version"]).json()
    assert len(told["document"]["layout"]["done"]) == 6
    assert offcut["id"] not in [left["id"] for left in client.get("/api/shelf").json()]
    refused = post(client, "projects/sorting-tray/sheets/7/cut", version=told["version"])
    assert refused.status_code == 422 and "not in the layout" in refused.json()["message"]


def test_a_cut_that_is_taken_back_and_made_again_leaves_one_offcut(client, tray):
    def on_the_shelf():
        return [offcut["id"] for offcut in client.get("/api/shelf").json()]

    cut = post(client, "projects/sorting-tray/sheets/1/cut", version=tray.version).json()
    [first] = on_the_shelf()
    back = post(client, "projects/sorting-tray/undo", version=cut["version"]).json()
    assert on_the_shelf() == []
    again = post(client, "projects/sorting-tray/redo", version=back["version"]).json()
    assert on_the_shelf() == [first]
    back = post(client, "projects/sorting-tray/undo", version=again["version"]).json()
    cut = post(client, "projects/sorting-tray/sheets/1/cut", version=back["version"]).json()
    [second] = on_the_shelf()
    assert second != first
    # An offcut that was laid on is there again once that is taken back.
    stock = next(s for s in cut["document"]["stocks"] if s["id"] == "birch")
    [offcut] = client.get("/api/shelf").json()
    size = {name: f"{offcut[name]:.4f}" for name in ("width", "height")}
    sheet = {**size, "at_hand": 1, "worth": 0, "outline": offcut["outline"]}
    told = edit(client, "sorting-tray", cut["version"], {"do": "put part", "part": part("tag", 40, 30, "birch")}).json()
    put = {"do": "put stock", "stock": stock | {"sheets": [sheet, *stock["sheets"]]}}
    told = edit(client, "sorting-tray", told["version"], put).json()
    copies = [{"part": "tag", "copy_number": 1}]
    told = edit(client, "sorting-tray", told["version"], {"do": "lay again", "copies": copies}).json()
    used = post(client, "projects/sorting-tray/sheets/2/cut", version=told["version"]).json()
    assert second not in on_the_shelf()
    post(client, "projects/sorting-tray/undo", version=used["version"])
    assert on_the_shelf() == [second]


# The simulated machine


def send(client, text, name="x.nc", **more):
    data = base64.b64encode(text.encode()).decode()
    return post(client, "device/file", name=name, data=data, **more)


def program(*lines):
    return "\n".join(["G21 G90", *lines, "M2"])


def later(seconds):
    """Lets the machine's clock have gone on for so long."""
    found = Device.objects.get()
    found.since = timezone.now() - timezone.timedelta(seconds=seconds)
    found.save()


def test_the_machine_is_homed_walked_round_started_paused_and_gone_on_with(client, db, monkeypatch):
    # Time stands but for what is told to pass, so that a busy machine changes nothing.
    stands = timezone.now()
    monkeypatch.setattr(timezone, "now", lambda: stands)
    assert client.get("/api/device").json()["state"] == "off"
    assert (
        "no file" in post(client, "device/start").json()["message"]
        or "home it first" in post(client, "device/start").json()["message"]
    )
    post(client, "device/home")
    told = send(client, program("G0 X10 Y10", "M3 S500", "G1 X110 F600", "G1 Y60", "M5", "G0 X0 Y0")).json()
    assert told["state"] == "ready" and told["seconds"] > 15 and told["length"] == {"cut": 150}
    assert post(client, "device/times", times=1).json()["times"] == 1
    walking = post(client, "device/start", doing="box").json()
    assert (walking["state"], walking["doing"]) == ("running", "box") and 0 < walking["seconds"] < 5
    later(10)
    assert client.get("/api/device").json()["state"] == "ready"
    assert post(client, "device/start").json()["state"] == "running"
    later(6)
    paused = post(client, "device/pause").json()
    assert paused["state"] == "paused" and paused["gone"] == pytest.approx(6, abs=1)
    assert "running" not in post(client, "device/datum", x=5, y=5).json().get("state", "")
    going = post(client, "device/go-on").json()
    assert going["gone"] == pytest.approx(paused["gone"], abs=1)
    later(60)
    done = client.get("/api/device").json()
    assert done["state"] == "done" and done["gone"] == done["seconds"]
    log = " ".join(done["log"])
    for word in ("Homed.", "Walks round the box.", "Walked round.", "Paused after", "Goes on.", "Done."):
        assert word in log


def test_an_alarm_stops_it_and_loses_nothing(client, db):
    laid = {"width": 100, "height": 100, "x": 0, "y": 0}
    post(client, "device/home")
    send(client, program("G0 X10 Y10", "M3 S500", "G1 X90 F6000", "G1 X150"), laid=laid)
    post(client, "device/start")
    later(60)
    told = client.get("/api/device").json()
    assert told["state"] == "alarm" and told["name"] == "x.nc"
    [alarm] = told["alarms"]
    assert alarm["line"] == 5 and "outside the sheet" in alarm["text"]
    # Laid as it should be, the same file runs through.
    assert post(client, "device/sheet", width=200, height=100).json()["state"] == "alarm"
    post(client, "device/home")
    post(client, "device/start")
    later(60)
    assert client.get("/api/device").json()["state"] == "done"


def test_what_it_cannot_read_is_refused_and_what_it_holds_stays(client, db):
    send(client, program("G0 X10"), name="first.nc")
    for name, text, says in (
        ("a.png", "x", "reads svg, dxf, pdf, nc, not “png”"),
        ("b.dxf", "x", "it has no sections"),
    ):
        answer = send(client, text, name=name)
        assert answer.status_code == 422 and says in answer.json()["message"]
    assert client.get("/api/device").json()["name"] == "first.nc"
    post(client, "device/home")
    off = post(client, "device/datum", x=900, y=5)
    assert off.status_code == 422 and "A datum at 900, 5 lies off the bed of 600 x 400 mm" in off.json()["message"]
