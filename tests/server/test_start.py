"""The served application as one process: killed without warning, it has lost nothing that it acknowledged."""

import json
import os
import signal
import subprocess
import sys
import urllib.request

import pytest

from ..projects import ROOT
from ..serving import Served


def test_a_killed_server_has_lost_nothing_acknowledged(tmp_path):
    served = Served(tmp_path)
    version = served.get("/api/projects/sorting-tray")["version"]
    for length in range(201, 221):
        command = {"do": "put name", "name": {"name": "tray_length", "size": {"text": str(length)}}}
        version = served.post("/api/projects/sorting-tray/edit", {"version": version, "command": command})["version"]
    os.kill(served.process.pid, signal.SIGKILL)
    served.process.wait()
    again = Served(tmp_path)
    found = again.get("/api/projects/sorting-tray")
    assert (found["version"], found["document"]["names"][0]["size"]["text"]) == (version, "220")
    again.stop()


def test_a_port_in_use_gets_a_sentence(tmp_path):
    served = Served(tmp_path)
    manage = [sys.executable, str(ROOT / "server" / "manage.py"), "serve", "--port", str(served.port)]
    second = subprocess.run(manage, capture_output=True, text=True, env=served.environment, timeout=60, check=False)
    served.stop()
    assert second.returncode != 0 and "cannot be used" in second.stderr and "Traceback" not in second.stderr


@pytest.mark.parametrize(
    ("source", "ending"), [("sorting-tray", "svg"), (str(ROOT / "demo" / "sorting_tray.json"), "dxf")]
)
def test_cut_writes_a_proved_file_from_a_slug_and_from_a_project_file(tmp_path, source, ending):
    environment = {**os.environ, "NOTCH_DATA": str(tmp_path)}
    out = tmp_path / f"sheet.{ending}"
    notch = [str(ROOT / "notch"), "cut", source, "--out", str(out), "--sheet", "2", "--at-machine"]
    subprocess.run(notch, check=True, env=environment, capture_output=True, timeout=120)
    proof = [str(ROOT / "notch"), "proof", str(out), "--kerf", "0", "--json"]
    told = json.loads(subprocess.run(proof, check=True, capture_output=True, timeout=60).stdout)
    sizes = sorted((p["width"], p["height"]) for p in told["pieces"])
    assert sizes[-1] == pytest.approx((233.56, 30), abs=0.01) and told["findings"] == []


def test_only_the_loopback_address_is_served(tmp_path):
    served = Served(tmp_path)
    page = urllib.request.urlopen(f"http://127.0.0.1:{served.port}/projects/any/shape").read()
    served.stop()
    assert b"<title>Lean Notch</title>" in page
