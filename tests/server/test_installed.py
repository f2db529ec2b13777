"""What ``./notch build`` makes, installed in an environment of its own: it serves without checkout and Node."""

import json
import os
import re
import site
import subprocess
import sys
import time
import urllib.request
import venv
import zipfile
from pathlib import Path

import pytest

from ..projects import ROOT
from ..serving import free_port

BUILD = ["-m", "pip", "wheel", "--quiet", "--no-deps", "--no-build-isolation"]


@pytest.fixture(scope="module")
def wheel(tmp_path_factory):
    folder = tmp_path_factory.mktemp("wheel")
    subprocess.run([sys.executable, *BUILD, "--wheel-dir", str(folder), str(ROOT)], check=True, timeout=120)
    [found] = folder.glob("lean_notch-*.whl")
    return found


@pytest.fixture(scope="module")
def installed(wheel, tmp_path_factory):
    """The folder of its commands. What it needs besides is lent to it, and nothing of the checkout."""
    folder = tmp_path_factory.mktemp("installed")
    venv.create(folder, with_pip=False, symlinks=True)
    python = folder / "bin" / "python"
    pip = [sys.executable, "-m", "pip", "--python", str(python), "install", "--quiet", "--no-deps", str(wheel)]
    subprocess.run(pip, check=True, timeout=120)
    [packages] = folder.glob("lib/python*/site-packages")
    (packages / "lent.pth").write_text("\n".join(site.getsitepackages()))
    return folder / "bin"


@pytest.fixture
def alone(tmp_path):
    """An environment without anything of this one; data lie where the system has them."""
    where = {"HOME": str(tmp_path), "PATH": "/usr/bin:/bin", "XDG_DATA_HOME": str(tmp_path / "share")}
    # Compiling the loops for this place alone would take a minute.
    return {**where, "NUMBA_DISABLE_JIT": "1"}


def test_the_wheel_holds_the_house_and_nothing_of_the_workbench(wheel):
    names = zipfile.ZipFile(wheel).namelist()
    assert {name.split("/")[0] for name in names if ".dist-info" not in name} == {"lean_notch"}
    house = {Path(name).relative_to("lean_notch/house").parts[0] for name in names if "/house/" in name}
    assert house == {"core", "server", "demo", "web"}
    assert {"lean_notch/house/web/dist/index.html", "lean_notch/house/demo/sorting_tray.json"} <= set(names)
    assert any(name.endswith(".woff2") for name in names) and not any("test" in name.lower() for name in names)
    told = zipfile.ZipFile(wheel).read(next(name for name in names if name.endswith("METADATA"))).decode()
    needed = {line.split("==")[0].lower() for line in (ROOT / "requirements.txt").read_text().split()}
    assert set(re.findall(r"^Requires-Dist: ([^=\n]+)==", told, re.M)) == needed


def test_it_serves_the_demo_and_has_every_command_without_the_checkout(installed, alone, tmp_path):
    def said(*arguments):
        call = [installed / "lean-notch", *arguments]
        return subprocess.run(
            call, env=alone, cwd=tmp_path, text=True, timeout=120, capture_output=True, check=True
        ).stdout

    assert said("--version") == "Lean Notch, version 0.1.0\n"
    port = free_port()
    begun = [installed / "lean-notch", "start", "--port", str(port)]
    server = subprocess.Popen(begun, env=alone, cwd=tmp_path, stdout=subprocess.PIPE, text=True)
    try:
        lines = []
        while not lines or "Lean Notch is at" not in lines[-1]:
            lines.append(server.stdout.readline())
            assert lines[-1], lines
        assert "ready for this machine, once" in lines[0]
        assert "<title>Lean Notch</title>" in got(port, "/")
        projects = json.loads(got(port, "/api/projects"))
        assert "Sorting tray" in {project["name"] for project in projects}
        shown = json.loads(got(port, "/api/projects/sorting-tray"))
        assert shown["document"]["parts"] and not shown["findings"]
        assert json.loads(said("eval", "sorting-tray", "--json"))
        assert (tmp_path / "share" / "lean-notch" / "notch.sqlite3").exists()
    finally:
        server.terminate()
        assert server.wait(20) is not None
    again = subprocess.Popen(begun, env=alone, cwd=tmp_path, stdout=subprocess.PIPE, text=True)
    began = time.monotonic()
    assert "Lean Notch is at" in again.stdout.readline()
    again.terminate()
    assert again.wait(20) is not None and time.monotonic() - began < 60


def got(port, path):
    with urllib.request.urlopen(f"http://127.0.0.1:{port}{path}", timeout=30) as answer:
        return answer.read().decode()


def test_shells_complete_its_commands(installed, alone, tmp_path):
    """click's own way: the shell asks the command itself."""
    asks = {**alone, "_LEAN_NOTCH_COMPLETE": "bash_complete", "COMP_WORDS": "lean-notch pr", "COMP_CWORD": "1"}
    told = subprocess.run(
        [installed / "lean-notch"], env=asks, cwd=tmp_path, capture_output=True, text=True, timeout=60, check=False
    ).stdout
    assert told.split() == ["plain,proof"]
    assert os.environ.get("_LEAN_NOTCH_COMPLETE") is None
