"""The served application as processes: killed, filled up, asked twice for one folder; and what the shell is told."""

import json
import random
import resource
import signal
import socket
import subprocess
import time
import urllib.error
from collections import Counter
from pathlib import Path

import pytest
from leannotch_core.project.project import write_project

from ..edits import Edits, edited, opened
from ..hostile.__main__ import faults_logged
from ..hostile.__main__ import tried as hostile
from ..hostile.places import PLACES
from ..kills import kills, kills_of_copies
from ..projects import ROOT
from ..serving import Served, environment, manage, prepare
from .test_commands import DONE, kit


@pytest.fixture(scope="module")
def served(tmp_path_factory):
    """One server for all of it: whatever a test does to it, the next one finds it in order."""
    served = Served(tmp_path_factory.mktemp("data"))
    yield served
    served.kill()


def length(text):
    return {"do": "put name", "name": {"name": "tray_length", "size": {"text": text}}}


def test_kills_lose_nothing_acknowledged(served):
    makers, runs = kills(served, 4)
    acknowledged = sum((maker.said for maker in makers), Counter())
    assert acknowledged["edit"] > 4 and acknowledged["delete"] and acknowledged["ask"] and runs["done"]


def test_a_killed_backup_or_restore_has_happened_or_has_not(tmp_path):
    assert manage(tmp_path, "prepare").returncode == 0
    kills_of_copies(tmp_path, 2)


def test_any_edit_of_what_ships_is_taken_or_refused_and_the_project_goes_on(served):
    commands = [command for command, *_ in DONE]
    made = Edits(commands, json.loads(write_project(kit())), random.Random(3))
    slugs = opened(served, ["drip_bracket", "starter_tray"])
    answers = [(status, trouble) for _, status, trouble in edited(served, slugs, made, 24)]
    assert [trouble for _, trouble in answers if trouble] == []
    assert {status for status, _ in answers} == {200, 422}


def test_hostile_files_end_in_sentences_wherever_they_are_sent(served):
    counted, slowest, grown, worse = hostile(served, 30, 4)
    assert worse == [] and counted.total() == 30 and set(slowest) == set(grown) == set(PLACES)
    assert sum(counted[place, "refused"] for place in PLACES) > 10
    assert faults_logged(served.data) == 0


def test_one_folder_is_served_once_and_a_port_in_use_gets_a_sentence(served, tmp_path):
    second = manage(served.data, "serve", "--port", served.port + 1)
    assert second.returncode and f"already serves {served.data} at {served.url}" in second.stderr
    other = manage(tmp_path, "serve", "--port", served.port)
    assert other.returncode and f"port {served.port} is in use by another program; try --port" in other.stderr
    assert manage(served.data, "prepare").returncode == 0
    back = manage(served.data, "restore")
    assert back.returncode and "Stop it first" in back.stderr + back.stdout
    assert "Traceback" not in second.stderr + other.stderr + back.stderr


@pytest.mark.parametrize(
    ("source", "ending"), [("sorting-tray", "svg"), (str(ROOT / "demo" / "sorting_tray.json"), "dxf")]
)
def test_cut_writes_a_proved_file_from_a_slug_and_from_a_project_file(tmp_path, source, ending):
    prepare(tmp_path)
    out = tmp_path / f"sheet.{ending}"
    notch = [str(ROOT / "notch"), "cut", source, "--out", str(out), "--sheet", "2", "--at-machine"]
    subprocess.run(notch, check=True, env=environment(tmp_path), capture_output=True, timeout=120)
    proof = [str(ROOT / "notch"), "proof", str(out), "--kerf", "0", "--json"]
    told = json.loads(subprocess.run(proof, check=True, capture_output=True, timeout=60).stdout)
    sizes = sorted((p["width"], p["height"]) for p in told["pieces"])
    assert sizes[-1] == pytest.approx((233.56, 30), abs=0.01) and told["findings"] == []


def listening(pid):
    """The addresses that a process listens at, as Linux tells them: hexadecimal, the address's last byte first."""
    links = [path.readlink() for path in Path(f"/proc/{pid}/fd").iterdir() if path.is_symlink()]
    own = {str(link)[8:-1] for link in links if str(link).startswith("socket:[")}
    rows = [line.split() for kind in ("tcp", "tcp6") for line in Path(f"/proc/net/{kind}").read_text().splitlines()[1:]]
    return {row[1] for row in rows if row[9] in own and row[3] == "0A"}


def test_only_the_loopback_address_is_served(served):
    assert listening(served.process.pid) == {f"0100007F:{served.port:04X}"}
    assert b"<title>Lean Notch</title>" in served.get_bytes("/projects/any/shape")
    before = listening("self")
    with socket.socket() as anywhere:
        # What the test would see if it were not so.
        anywhere.bind(("0.0.0.0", 0))
        anywhere.listen()
        assert listening("self") - before == {f"00000000:{anywhere.getsockname()[1]:04X}"}


def test_a_full_disk_is_said_and_the_edit_goes_in_once_there_is_room(served):
    version = served.get("/api/projects/sorting-tray")["version"]
    edit = {"version": version, "command": length("250")}
    _, most = resource.prlimit(served.process.pid, resource.RLIMIT_FSIZE)
    resource.prlimit(served.process.pid, resource.RLIMIT_FSIZE, (4096, most))
    with pytest.raises(urllib.error.HTTPError) as refusal:
        served.post("/api/projects/sorting-tray/edit", edit)
    message = json.load(refusal.value)["message"]
    assert refusal.value.code == 503 and "could not be stored: the disk of the data folder" in message
    assert served.get("/api/projects/sorting-tray")["version"] == version
    resource.prlimit(served.process.pid, resource.RLIMIT_FSIZE, (most, most))
    assert served.post("/api/projects/sorting-tray/edit", edit)["version"] == version + 1
    logged = (served.data / "log" / "serve.log").read_text()
    assert "the database refused" in logged and "Traceback" in logged


def until(served, run, *states):
    """Waits for a run to come to one of the states, as a maker waits for what the screen says."""
    end = time.monotonic() + 90
    while time.monotonic() < end:
        told = served.get(f"/api/runs/{run}")
        if told["state"] in states:
            return told
        time.sleep(0.05)
    raise AssertionError(f"run {run} is {told['state']}, never {states}")


def nest(served, seconds):
    return served.post("/api/projects/sorting-tray/nest", {"seconds": seconds})["id"]


def test_a_run_whose_worker_is_gone_says_so_and_the_next_one_is_carried_out(served, tmp_path):
    lost = nest(served, 600)
    until(served, lost, "running")
    waits = nest(served, 1)
    # One project's nesting holds up no proof, and a sheet cut from the shell meanwhile ends no run.
    proof = served.post("/api/projects/lens-stand/prove", {})["id"]
    assert until(served, proof, "done", "failed")["state"] == "done"
    assert manage(served.data, "cut", "lens-stand", "--out", tmp_path / "tray.svg").returncode == 0
    assert (served.get(f"/api/runs/{lost}")["state"], served.get(f"/api/runs/{waits}")["state"]) == (
        "running",
        "waiting",
    )
    subprocess.run(["kill", "-9", str(served.workers()["nesting"])], check=True)
    told = until(served, lost, "failed")
    assert told["message"].startswith("Its worker ended before it was done.")
    assert until(served, waits, "done", "failed")["state"] == "done"
    assert "the worker for nesting ended with -9" in (served.data / "log" / "serve.log").read_text()


def test_what_waits_is_carried_out_after_a_restart_and_what_went_on_has_ended(served):
    lost, waits, given_up = nest(served, 600), nest(served, 1), nest(served, 600)
    until(served, lost, "running")
    assert served.post(f"/api/runs/{given_up}/stop", {})["state"] == "stopped"
    served.kill()
    served.start()
    assert served.get(f"/api/runs/{lost}")["message"].startswith("The server was stopped meanwhile.")
    assert until(served, waits, "done", "failed")["state"] == "done"
    assert [served.get(f"/api/runs/{run}")["state"] for run in (lost, given_up)] == ["failed", "stopped"]


def test_a_stop_is_orderly_and_at_once_also_during_long_work(served):
    run = nest(served, 600)
    until(served, run, "running")
    served.process.send_signal(signal.SIGTERM)
    served.process.wait(timeout=30)
    served.start()
    assert served.get(f"/api/runs/{run}")["state"] == "failed"
