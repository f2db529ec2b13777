"""The real application, served from a data folder of its own."""

import fcntl
import json
import os
import shutil
import signal
import socket
import sqlite3
import subprocess
import sys
import time
import urllib.error
import urllib.request
from contextlib import closing
from pathlib import Path

from lean_notch.command import COMMANDS

from .projects import ROOT

#: So long (s) an answer is waited for: what takes longer has hung.
PATIENCE = 180

MANAGE = [sys.executable, str(ROOT / "server" / "manage.py")]


def call_of(command):
    """How a command is begun: those of the shell, and the server's own."""
    return [sys.executable, "-m", "lean_notch", command] if command in COMMANDS else [*MANAGE, command]


def environment(data, host=""):
    own = {"NOTCH_DATA": str(data), "DJANGO_SETTINGS_MODULE": "leannotch.settings", "NOTCH_HOST": host}
    return {**os.environ, **own, "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'server'}:{ROOT / 'cli'}"}


def manage(data, name, *arguments, **more):
    """A command on a data folder; its outcome."""
    command = [*call_of(name), *map(str, arguments)]
    return subprocess.run(
        command, capture_output=True, text=True, env=environment(data), timeout=120, check=False, **more
    )


#: Names the folder in which one run of the tests keeps a prepared data folder.
PREPARED = "NOTCH_TEST_PREPARED"


def prepare(data):
    """Makes a data folder with the demo in it; within a run of the tests it is a copy of the first one."""
    kept = os.environ.get(PREPARED)
    if not kept:
        _prepare(data)
        return
    first = Path(kept) / "demo"
    with (Path(kept) / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not first.exists():
            _prepare(first)
    shutil.copytree(first, data, dirs_exist_ok=True)


def _prepare(data):
    prepared = manage(data, "prepare")
    assert prepared.returncode == 0, prepared.stderr


def free_port():
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        return free.getsockname()[1]


class Served:
    """A server and its workers on a free port; the demo is loaded into a new data folder. ``host`` is for others."""

    def __init__(self, data, host=""):
        self.data, self.host = data, host
        prepare(data)
        self.start()

    def start(self, port=None):
        self.port = port or free_port()
        command = [*MANAGE, "serve", "--port", str(self.port)]
        self.process = subprocess.Popen(command, env=environment(self.data, self.host), stdout=subprocess.DEVNULL)
        self._await()

    @property
    def url(self):
        return f"http://127.0.0.1:{self.port}"

    def _await(self):
        until = time.monotonic() + 60
        while time.monotonic() < until and self.process.poll() is None:
            if self._answers() and len(self.workers()) == 2:
                return
            time.sleep(0.05)
        raise RuntimeError("the server did not start")

    def _answers(self):
        try:
            self.get("/api/runs/0")
        except urllib.error.HTTPError:
            return True
        except OSError:
            return False
        return True

    def get_bytes(self, path):
        with urllib.request.urlopen(self.url + path, timeout=PATIENCE) as answer:
            return answer.read()

    def get(self, path):
        return json.loads(self.get_bytes(path))

    def post_bytes(self, path, body, method="POST"):
        headers = {"Content-Type": "application/json"}
        request = urllib.request.Request(self.url + path, body, headers, method=method)
        with urllib.request.urlopen(request, timeout=PATIENCE) as answer:
            return json.loads(answer.read() or "null")

    def post(self, path, body):
        return self.post_bytes(path, json.dumps(body).encode())

    def delete(self, path):
        self.post_bytes(path, None, "DELETE")

    def workers(self):
        """The workers' processes by their queues."""
        return {words[1]: pid for words, pid in self._children() if words[0] == "work"}

    def workplaces(self):
        """The processes that work projects out."""
        return sorted(pid for words, pid in self._children() if words[0] == "workplace")

    def beside(self):
        """All processes that the server began, by what they are."""
        return self.workers() | {f"workplace {at + 1}": pid for at, pid in enumerate(self.workplaces())}

    def _children(self):
        """The commands and processes that the server began, as Linux knows the children of a process."""
        for path in Path("/proc").glob("[0-9]*"):
            try:
                parent = int((path / "stat").read_text().rpartition(")")[2].split()[1])
                words = (path / "cmdline").read_text().split("\0")
            except OSError:
                continue
            if parent == self.process.pid and MANAGE[1] in words:
                yield words[words.index(MANAGE[1]) + 1 :], int(path.name)

    def hold(self, queue):
        """Stops the worker of a queue where it stands, but not while it holds the database; its process."""
        worker = self.workers()[queue]
        with closing(sqlite3.connect(self.data / "notch.sqlite3", timeout=60, isolation_level=None)) as file:
            file.execute("BEGIN IMMEDIATE")
            os.kill(worker, signal.SIGSTOP)
            while Path(f"/proc/{worker}/stat").read_text().rpartition(")")[2].split()[0] != "T":
                time.sleep(0.001)
            file.execute("ROLLBACK")
        return worker

    def stop(self):
        self.process.terminate()
        self.process.wait()

    def kill(self):
        """Ends it as a power cut would: nothing of it gets to do anything more."""
        self.process.kill()
        self.process.wait()
