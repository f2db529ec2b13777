"""Every place of the server that takes a file, and what follows from it once it is taken."""

import base64
import json
import time
import urllib.error
import urllib.parse
import urllib.request
from dataclasses import dataclass, field

TRAY = "/api/projects/sorting-tray"

#: A maker waits no longer than this (s) for the reading of a file, however busy the machine is.
PATIENCE = 60


@dataclass
class Told:
    """All that was answered about one file: what failed, and how long (s) each answer took."""

    faults: list = field(default_factory=list)
    waits: list = field(default_factory=list)
    taken: bool = False


class Sender:
    """Sends a file to a place of a server and asks for all that follows from it."""

    def __init__(self, served):
        self.served = served

    def send(self, place, name, data):
        told = Told()
        PLACES[place](self, told, name, data)
        return told

    def ask(self, told, method, path, body=b"", kind="application/octet-stream"):
        """The answer as a JSON value or bytes; None where it was refused. Every refusal is a sentence."""
        request = urllib.request.Request(self.served.url + path, body, {"Content-Type": kind}, method=method)
        if method == "GET":
            request.data = None
        began = time.monotonic()
        try:
            with urllib.request.urlopen(request, timeout=2 * PATIENCE) as answer:
                said, status = answer.read(), answer.status
        except urllib.error.HTTPError as error:
            said, status = error.read(), error.code
        told.waits.append(time.monotonic() - began)
        if status >= 400:
            told.faults += [f"{method} {path}: {status} {fault}" for fault in faults_of(status, said)]
            return None
        return json.loads(said) if said[:1] in (b"{", b"[") else said

    def read(self, told, path):
        return self.ask(told, "GET", path)

    def post(self, told, path, value):
        return self.ask(told, "POST", path, json.dumps(value).encode(), "application/json")

    def ended(self, told, run):
        """The run once it is over."""
        until = time.monotonic() + PATIENCE
        while time.monotonic() < until:
            found = self.read(told, f"/api/runs/{run}")
            if found is None or found["state"] not in ("waiting", "running"):
                return found
            time.sleep(0.05)
        told.faults.append(f"the reading did not end within {PATIENCE} s")
        return None


def faults_of(status, said):
    """What is wrong with a refusal: a fault of ours, no sentence, or the words of a program."""
    if status >= 500:
        yield "is a fault of ours"
    try:
        message = json.loads(said)["message"]
    except (ValueError, KeyError, TypeError):
        yield f"says no sentence: {said[:120]!r}"
        return
    if not message.strip().endswith((".", "!", "?", ")", "”")) or any(word in message for word in PROGRAMS):
        yield f"is worded by a program: {message[:200]!r}"


PROGRAMS = ("Traceback", "Error(", "NoneType", "object has no", "Exception", "line 1 column")


def brought(sender, told, name, data):
    path = f"{TRAY}/brought?name={urllib.parse.quote(name)}"
    file = sender.ask(told, "POST", path, data)
    if file is None:
        return
    run = sender.ended(told, file["run"])
    if run is None or run["state"] != "done":
        told.faults += [fault for fault in faults_of(422, json.dumps(run or {}).encode()) if run]
        return
    told.taken = True
    one = f"/api/brought/{file['id']}"
    looked = sender.read(told, one)
    sender.read(told, f"{one}/bodies")
    if looked is not None:
        sender.post(told, f"{one}/joined", looked["choices"])
        sender.post(told, f"{one}/take", {"version": 0, "choices": looked["choices"]})
    sender.ask(told, "DELETE", one)


def whole_project(sender, told, name, data):
    shown = sender.ask(told, "POST", "/api/projects/open", data)
    if shown is not None:
        told.taken = True
        one = f"/api/projects/{shown['slug']}"
        for follows in ("", "/findings", "/prepared"):
            sender.read(told, one + follows)
        sender.ask(told, "DELETE", one)


def service(sender, told, name, data):
    given = {"name": name, "data": base64.b64encode(data).decode()}
    shown = sender.post(told, "/api/service/files", given)
    if shown is not None:
        told.taken = True
        one = f"/api/service/files/{shown['id']}"
        sender.read(told, one)
        sender.post(told, f"{one}/unit", {"unit": "in"})
        sender.ask(told, "DELETE", one)


def device(sender, told, name, data):
    given = {"name": name, "data": base64.b64encode(data).decode()}
    told.taken = sender.post(told, "/api/device/file", given) is not None
    sender.read(told, "/api/device")


def proof(sender, told, name, data):
    path = f"{TRAY}/sheets/1/proof/{urllib.parse.quote(name)}"
    told.taken = sender.ask(told, "POST", path, data) is not None


def _plain(path):
    def sent(sender, told, name, data):
        told.taken = sender.ask(told, "POST", path, data) is not None

    return sent


PLACES = {
    "a file brought": brought,
    "an outline": _plain("/api/outlines"),
    "a project opened": whole_project,
    "a starter opened": _plain("/api/own-starters/open"),
    "a machine opened": _plain("/api/machines/open"),
    "a picture of the bed": _plain(f"{TRAY}/picture"),
    "a picture laid under": _plain("/api/pictures"),
    "a file proved": proof,
    "a file for the machine": device,
    "a file for the service": service,
}

#: What each place reads, by the ends of names; anything else is sent there too, only not as often.
READS = {
    "a project opened": ("json",),
    "a starter opened": ("starter", "json"),
    "a machine opened": ("machine", "json"),
    "a picture of the bed": ("png", "jpeg"),
    "a picture laid under": ("png", "jpeg"),
    "a file for the machine": ("nc", "svg", "dxf", "pdf"),
}
