"""Kills the server at random moments while makers work, and holds what is there afterwards against what it had said.

``python -m tests.kills 200`` for many.
"""

import contextlib
import json
import random
import shutil
import sqlite3
import subprocess
import sys
import tempfile
import time
import urllib.error
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from http.client import HTTPException
from pathlib import Path

from .serving import Served, call_of, environment, manage


class Maker:
    """Edits, begins, deletes and asks for long work until the server is gone, and remembers what was acknowledged."""

    def __init__(self, slug, seed):
        self.slug, self.chance = slug, random.Random(seed)
        self.said = Counter()
        self.version, self.length, self.tried = 0, "", ""
        self.present, self.gone, self.doubtful = set(), set(), set()

    def work(self, served):
        acts = [self.edit] * 8 + [self.begin, self.delete, self.delete, self.restore, self.ask]
        while True:
            act = self.chance.choice(acts)
            try:
                if act(served) is not False:
                    self.said[act.__name__] += 1
            except urllib.error.HTTPError as error:
                assert error.code == 409, (act.__name__, error.code, error.read()[:300])
            except (OSError, HTTPException, json.JSONDecodeError):
                return

    def edit(self, served):
        self.version = served.get(f"/api/projects/{self.slug}")["version"]
        self.tried = str(self.chance.randint(160, 400))
        command = {"do": "put name", "name": {"name": "tray_length", "size": {"text": self.tried}}}
        answer = served.post(f"/api/projects/{self.slug}/edit", {"version": self.version, "command": command})
        self.version, self.length = answer["version"], self.tried

    def begin(self, served):
        self.present.add(served.post("/api/projects", {"name": "Tray of a day"})["slug"])

    def delete(self, served):
        return self._change(served, self.present, self.gone, lambda slug: served.delete(f"/api/projects/{slug}"))

    def restore(self, served):
        return self._change(
            served, self.gone, self.present, lambda slug: served.post(f"/api/deleted/{slug}/restore", {})
        )

    def _change(self, served, of, to, call):
        if not of:
            return False
        slug = self.chance.choice(sorted(of))
        of.remove(slug)
        self.doubtful.add(slug)
        call(slug)
        self.doubtful.remove(slug)
        to.add(slug)
        return True

    def ask(self, served):
        kind = self.chance.choice(["nest", "prove", "fit"])
        served.post(f"/api/projects/{self.slug}/{kind}", {"seconds": 1})

    def hold_against(self, served, listed, deleted):
        """What the server shows after a kill is what it had said before, or that and the call that was cut off."""
        shown = served.get(f"/api/projects/{self.slug}")
        length = next(n["size"]["text"] for n in shown["document"]["names"] if n["name"] == "tray_length")
        assert shown["version"] >= self.version, (shown["version"], self.version)
        assert length in (self.length, self.tried), (length, self.length, self.tried)
        self.version, self.length = shown["version"], length
        assert self.present <= listed and not self.present & deleted
        assert self.gone <= deleted and not self.gone & listed
        for slug in self.doubtful:
            assert (slug in listed) != (slug in deleted)
            (self.present if slug in listed else self.gone).add(slug)
        self.doubtful.clear()


def kill_and_look(served, makers, seconds, long_work):
    """Lets the makers work for so long, in the midst of long work or not, kills the server, starts it, and looks."""
    with ThreadPoolExecutor() as pool:
        works = [pool.submit(maker.work, served) for maker in makers]
        run = begun(served, makers[0].slug) if long_work else None
        time.sleep(seconds)
        served.kill()
    for work in works:
        work.result()
    served.start()
    with closing(sqlite3.connect(served.data / "notch.sqlite3")) as file:
        assert file.execute("PRAGMA quick_check").fetchone() == ("ok",)
    projects = served.get("/api/projects")
    assert [project["trouble"] for project in projects if project["trouble"]] == []
    listed, deleted = ({p["slug"] for p in found} for found in (projects, served.get("/api/deleted")))
    for maker in makers:
        maker.hold_against(served, listed, deleted)
    if run:
        told = served.get(f"/api/runs/{run}")
        assert told["state"] == "failed" and told["message"].startswith("The server was stopped"), told


def begun(served, slug):
    """A nesting that a worker has begun, and that would go on for a minute."""
    run = served.post(f"/api/projects/{slug}/nest", {"seconds": 60})["id"]
    until = time.monotonic() + 60
    while served.get(f"/api/runs/{run}")["state"] == "waiting" and time.monotonic() < until:
        time.sleep(0.05)
    return run


def make_old(served, makers):
    """All deleted projects were deleted long ago: the next start takes them away, and may be killed over it."""
    with closing(sqlite3.connect(served.data / "notch.sqlite3", timeout=30)) as file, file:
        file.execute("UPDATE workshop_project SET deleted = datetime(deleted, '-31 days') WHERE deleted IS NOT NULL")
    for maker in makers:
        maker.gone.clear()


def how_runs_ended(served):
    """Once nothing waits any more: the states of all runs. Each ends, whatever happened to its worker."""
    until = time.monotonic() + 120
    while time.monotonic() < until:
        with closing(sqlite3.connect(served.data / "notch.sqlite3", timeout=30)) as file:
            states = Counter(row[0] for row in file.execute("SELECT state FROM workshop_run"))
        if not states["waiting"] and not states["running"]:
            return states
        time.sleep(0.2)
    raise AssertionError(f"runs that never end: {states}")


def kills(served, times, seed=0):
    """Kills a server so many times; answers the makers and how their runs ended."""
    chance = random.Random(seed)
    tray = served.get_bytes("/api/projects/sorting-tray/file")
    makers = [Maker(served.post_bytes("/api/projects/open", tray)["slug"], seed + number) for number in range(2)]
    for maker in makers:
        maker.edit(served)
    for number in range(times):
        kill_and_look(served, makers, chance.uniform(0, 1.5), long_work=number % 6 == 1)
        if number % 3 == 2:
            make_old(served, makers)
    return makers, how_runs_ended(served)


# Copies


def kills_of_copies(data, times, seed=0):
    """Kills backups and restores of a folder that nobody serves: each has happened, or it has not.

    Answers how often it had: of backups, and of restores.
    """
    chance, happened = random.Random(seed), [0, 0]
    earlier = data / "earlier.sqlite3"
    call_it(data, "earlier")
    began = time.monotonic()
    struck(data, ["backup", earlier], 60)
    took = time.monotonic() - began
    assert called(earlier) == "earlier"
    for number in range(times):
        now = f"now {number}"
        call_it(data, now)
        copy = data / f"copy-{number}.sqlite3"
        struck(data, ["backup", copy], took * chance.uniform(0.75, 1.05))
        if copy.exists():
            happened[0] += 1
            assert called(copy) == now
            copy.unlink()
        struck(data, ["restore", earlier], took * chance.uniform(0.75, 1.1))
        prepared = manage(data, "prepare")
        assert prepared.returncode == 0, prepared.stderr
        what = called(data / "notch.sqlite3")
        assert what in ("earlier", now), what
        happened[1] += what == "earlier"
        for aside in data.glob("before-restore-*"):
            shutil.rmtree(aside)
    return happened


def struck(data, command, seconds):
    """A command that is killed after so long, if it is not done by then."""
    process = subprocess.Popen(
        [*call_of(command[0]), *map(str, command[1:])], env=environment(data), stdout=subprocess.DEVNULL
    )
    with contextlib.suppress(subprocess.TimeoutExpired):
        process.wait(seconds)
    process.kill()
    process.wait()


def call_it(data, name):
    with closing(sqlite3.connect(data / "notch.sqlite3", timeout=30)) as file, file:
        file.execute("UPDATE workshop_project SET name = ? WHERE slug = 'sorting-tray'", [name])


def called(path):
    """What the tray is called in a sound database with all that the demo has."""
    with closing(sqlite3.connect(path)) as file:
        assert file.execute("PRAGMA quick_check").fetchone() == ("ok",)
        assert file.execute("SELECT count(*) FROM workshop_project").fetchone()[0] >= 14
        return file.execute("SELECT name FROM workshop_project WHERE slug = 'sorting-tray'").fetchone()[0]


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as folder:
        count, served = int(sys.argv[1]), Served(Path(folder))
        try:
            makers, states = kills(served, count, seed=int(time.time()))
        finally:
            served.kill()
        backups, restores = kills_of_copies(Path(folder), count // 4, seed=int(time.time()))
        print(f"{count // 4} kills each: {backups} backups were made and the others not, {restores} restores were.")
        acknowledged = sum((maker.said for maker in makers), Counter())
        print(
            f"{count} kills: nothing acknowledged was lost. Acknowledged: {dict(acknowledged)}. Runs: {dict(states)}."
        )
