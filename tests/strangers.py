"""Those who come from elsewhere: without a word, as makers, guessing, flooding, and sending slowly or too much.

``python -m tests.strangers [CONNECTIONS [CALLS]]`` tries all of it on a server of its own, at an address of this
machine that counts as elsewhere, and prints the table of docs/promises.md. Exit status 1 where anything was let
through.
"""

import http.client
import json
import re
import socket
import statistics
import sys
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from .projects import ROOT
from .serving import Served

#: Where others reach it, and where they come from: addresses of this machine that are not the one it trusts.
HOST, FROM = "127.0.0.2", "127.0.0.3"
WORDS = {"operator": "the tide is out", "maker": "gulls and whelks"}

#: What is answered to everybody.
OPEN = {"/api/enter", "/api/role"}
#: What is the operator's: its paths, and those that only he changes.
DESK = re.compile(
    r"^/api/(queue(?!/\{number\}/take-back$)|together|words|device|desk|makers|projects/\{slug\}/(owner|hands))(/|$)"
)
SHARED = {
    *(("POST", f"/api/{path}") for path in ("machines", "cutters", "library")),
    *(("PUT", f"/api/{path}") for path in ("rates", "rates/money", "rates/hand-work")),
}


class Stranger:
    """A caller from elsewhere with a session of its own."""

    def __init__(self, served, source=FROM):
        self.served, self.source, self.cookies = served, source, {}

    def call(self, method, path, body=None, headers=None):
        """The status of a call and what it said."""
        caller = http.client.HTTPConnection(HOST, self.served.port, timeout=60, source_address=(self.source, 0))
        cookie = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        sent = {"Content-Type": "application/json", "X-CSRFToken": self.cookies.get("csrftoken", ""), **(headers or {})}
        caller.request(method, path, None if body is None else json.dumps(body), {**sent, "Cookie": cookie})
        answer = caller.getresponse()
        for name, value in re.findall(r"(sessionid|csrftoken)=([^;]*)", str(answer.msg.get_all("Set-Cookie"))):
            self.cookies[name] = value
        said = answer.read()
        caller.close()
        return answer.status, said

    def says(self, word, name=None):
        self.call("GET", "/")
        return self.call("POST", "/api/enter", {"word": word, "name": name})[0]


def opened(data, readied=lambda served: None):
    """A server that others reach, with its two words set, and with what ``readied`` does before."""
    served = Served(data)
    readied(served)
    for role, word in WORDS.items():
        served.post("/api/words", {"role": role, "word": word})
    served.stop()
    served.host = HOST
    served.start()
    return served


def calls():
    schema = json.loads((ROOT / "web" / "openapi.json").read_text())
    return [(method.upper(), path) for path, ways in schema["paths"].items() for method in ways]


def let_through(caller, role, most=None):
    """The calls of the schema that somebody gets an answer to who should not, or that end in a fault of ours."""
    found, tried = [], 0
    for method, path in calls()[:most]:
        barred = path not in OPEN and (not role or bool(DESK.match(path)) or (method, path) in SHARED)
        # What ends one's own session is tried elsewhere.
        if path == "/api/leave":
            continue
        status, _ = caller.call(method, re.sub(r"\{[^}]*\}", "1", path), None if method == "GET" else {})
        tried += 1
        if status == 500 or (barred and status != (403 if role else 401)) or (not barred and status == 401):
            found.append(f"{role or 'no word'}: {method} {path} answered {status}")
    return tried, found


def guesses(served, number):
    """The answers to so many wrong words at once, and how long (s) the desk's own calls took meanwhile."""
    callers = [Stranger(served, f"127.0.1.{1 + at % 40}") for at in range(16)]
    for caller in callers:
        caller.call("GET", "/")
    began = time.monotonic()
    with ThreadPoolExecutor(17) as threads:
        wrong = [
            threads.submit(callers[at % 16].call, "POST", "/api/enter", {"word": "whelk 1234"}) for at in range(number)
        ]
        own = threads.submit(_desk_waits, served, lambda: all(one.done() for one in wrong))
        statuses = [one.result()[0] for one in wrong]
    return statuses, own.result(), time.monotonic() - began


def _desk_waits(served, over):
    waits = []
    while not over() or not waits:
        began = time.monotonic()
        served.get("/api/projects")
        waits.append(time.monotonic() - began)
    return waits


def half_sent(served, number):
    """How long (s) the desk took while so many requests were sent by half, and how many of them were ended in time."""
    held = []
    for at in range(number):
        with_half = socket.create_connection((HOST, served.port), source_address=(f"127.0.2.{1 + at % 60}", 0))
        with_half.sendall(b"POST /api/enter HTTP/1.1\r\nHost: x\r\nContent-Length: 90\r\n\r\n{")
        held.append(with_half)
    began = time.monotonic()
    served.get("/api/projects")
    took = time.monotonic() - began
    ended = 0
    for one in held:
        one.settimeout(30)
        try:
            ended += one.recv(1000) is not None
        except OSError:
            ended += isinstance(sys.exc_info()[1], ConnectionError)
        one.close()
    return took, ended


def too_large(served, megabytes=63):
    """How many bytes of a large body without a session could be sent."""
    caller = socket.create_connection((HOST, served.port), source_address=(FROM, 0))
    size = megabytes * 1_000_000
    caller.sendall(
        f"POST /api/brought HTTP/1.1\r\nHost: {HOST}:{served.port}\r\nContent-Length: {size}\r\n\r\n".encode()
    )
    caller.settimeout(30)
    sent, answer = 0, b""
    try:
        while sent < size:
            caller.setblocking(False)
            try:
                answer = caller.recv(100)
            except BlockingIOError:
                caller.setblocking(True)
                caller.sendall(bytes(65536))
                sent += 65536
            if answer:
                break
    except ConnectionError:
        pass
    caller.close()
    return sent


def ended_sessions(served):
    """What still works with a cookie after leaving, and after the word was changed; and words that let nobody in."""
    found = []
    maker = Stranger(served)
    maker.says(WORDS["maker"])
    kept = dict(maker.cookies)
    if maker.call("GET", "/api/projects")[0] != 200:
        found.append("a maker's word let nobody in")
    maker.call("POST", "/api/leave", {})
    maker.cookies = kept
    if maker.call("GET", "/api/projects")[0] != 401:
        found.append("a cookie worked after leaving")
    maker.says(WORDS["maker"])
    operator = Stranger(served)
    operator.says(WORDS["operator"])
    operator.call("POST", "/api/words", {"role": "maker", "word": WORDS["maker"] + " again"})
    if maker.call("GET", "/api/projects")[0] != 401:
        found.append("a session went on when its word was changed")
    operator.call("POST", "/api/words", {"role": "maker", "word": WORDS["maker"]})
    if operator.call("POST", "/api/words", {"role": "maker", "word": " " * 12})[0] != 422:
        found.append("a word of spaces was taken")
    return found


def without_leave(served, role, found, most):
    caller = Stranger(served)
    if role:
        caller.says(WORDS[role])
    tried, through = let_through(caller, role, most)
    found += through
    return f"calls with {'the word of a ' + role if role else 'no word'}", tried, len(through)


def by_half(served, number):
    took, ended = half_sent(served, number)
    return f"requests sent by half; the desk answered in {took:.2f} s meanwhile", number, number - ended


def large_bodies(served):
    # What was sent before the refusal came is what the network holds.
    sent = too_large(served)
    return f"a body of 63 MB without a session, ended after {sent / 1e6:.2f} MB", 1, int(sent > 12_000_000)


def many_words(served, number):
    statuses, waits, took = guesses(served, number)
    said = (
        f"{statuses.count(403)} of them looked at; the desk waited {statistics.median(waits):.3f} s, {max(waits):.2f} s"
    )
    through = sum(status not in (403, 429) for status in statuses)
    return f"wrong words at once within {took:.1f} s, {said} at most", number, through


def main(arguments):
    number = int(arguments[0]) if arguments else 160
    most = int(arguments[1]) if len(arguments) > 1 else None
    with tempfile.TemporaryDirectory() as data:
        served = opened(Path(data))
        try:
            rows, found = [], ended_sessions(served)
            rows += [without_leave(served, role, found, most) for role in ("", "maker")]
            rows += [by_half(served, number), large_bodies(served), many_words(served, 3 * number)]
        finally:
            served.stop()
    print("| what was tried | how often | let through |\n| --- | --- | --- |")
    print("\n".join(f"| {what} | {tried} | {through} |" for what, tried, through in rows))
    print("\n".join(found))
    return 1 if found or any(through for _, _, through in rows) else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
