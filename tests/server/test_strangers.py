"""Those from elsewhere: what they may call, how often they may guess, how long and how much they may send."""

import contextlib
import json
import re
import socket
import threading
import time
from types import SimpleNamespace

import pytest
from django.test import Client
from handin import gate, guesses
from served import listening

from .. import strangers
from ..strangers import HOST, WORDS, calls, let_through
from .calls import fresh_key

HEAD = {"content_type": "application/json"}


class Caller:
    """A caller from elsewhere of the application as it is here."""

    def __init__(self, word="", address="192.0.2.7"):
        self.client = Client(REMOTE_ADDR=address, raise_request_exception=False)
        if word:
            assert self.says(word) == 200

    def call(self, method, path, body=None):
        answer = self.client.generic(method, path, "" if body is None else json.dumps(body), **HEAD)
        return answer.status_code, answer.content

    def says(self, word):
        return self.call("POST", "/api/enter", {"word": word})[0]


@pytest.fixture
def open_to_others(settings, tray):
    settings.HOST = "testserver"
    for role, word in WORDS.items():
        gate.set_word(role, word)


@pytest.mark.parametrize("role", ["", "maker"])
def test_no_call_of_the_schema_is_answered_to_those_who_may_not_ask_it(open_to_others, role):
    tried, through = let_through(Caller(WORDS.get(role, "")), role)
    assert tried == len(calls()) - 1 and through == []


def test_a_session_ends_with_leaving_and_with_its_word(open_to_others):
    maker = Caller(WORDS["maker"])
    kept = maker.client.cookies.copy()
    maker.call("POST", "/api/leave", {})
    maker.client.cookies = kept
    assert maker.call("GET", "/api/projects")[0] == 401
    maker, operator = Caller(WORDS["maker"]), Caller(WORDS["operator"])
    assert operator.call("POST", "/api/words", {"role": "maker", "word": "sand and whelks"})[0] == 200
    assert maker.call("GET", "/api/projects")[0] == 401 and operator.call("GET", "/api/queue")[0] == 200
    assert operator.call("POST", "/api/words", {"role": "maker", "word": " " * 20})[0] == 422


def test_words_are_counted_before_they_are_looked_at(open_to_others, monkeypatch):
    looked = []
    monkeypatch.setattr(gate, "check_password", lambda word, hashed: looked.append(word) or word == WORDS["operator"])
    caller = Caller()
    statuses = [caller.says("open sesame") for _ in range(guesses.MOST + 3)]
    assert statuses == [403] * guesses.MOST + [429] * 3 and len(looked) == 2 * guesses.MOST
    # The right word does not help from there now; from elsewhere it does, and what was tried there is forgotten.
    assert caller.says(WORDS["operator"]) == 429
    other = Caller(address="192.0.2.8")
    for _ in range(3):
        assert [other.says("open sesame") for _ in range(guesses.MOST - 1)] == [403] * (guesses.MOST - 1)
        assert other.says(WORDS["operator"]) == 200
    many = [Caller(address=f"198.51.100.{at}").says("open sesame") for at in range(guesses.MOST_IN_ALL)]
    assert many[-1] == 429 and many.count(403) < guesses.MOST_IN_ALL
    # After the time that is said it is looked at again.
    for known in guesses.Guesses.objects.all():
        known.since -= guesses.timedelta(minutes=guesses.MINUTES, seconds=1)
        known.save()
    assert caller.says("open sesame") == 403


def test_what_a_maker_handed_in_is_taken_back_by_him_alone_or_the_operator(open_to_others):
    maker, other, operator = Caller(WORDS["maker"]), Caller(WORDS["maker"], "192.0.2.9"), Caller(WORDS["operator"])
    for taker, status in ((maker, 200), (operator, 200)):
        status_of, said = maker.call(
            "POST", "/api/projects/sorting-tray/hand-in", {"sheets": [1], "owner": "Mo", "key": fresh_key()}
        )
        assert status_of == 201
        [one] = json.loads(said)
        path, at = f"/api/queue/{one['number']}/take-back", {"version": one["version"]}
        refused, why = other.call("POST", path, at)
        assert refused == 422 and b"ask the operator to return it" in why
        assert taker.call("POST", path, at)[0] == status


def _hello(environ, start):
    size = len(environ["wsgi.input"].read())
    start("200 OK", [("Content-Type", "text/plain")])
    return [f"took {size}".encode()]


@pytest.fixture
def others(monkeypatch):
    monkeypatch.setattr(listening, "SECONDS", 1.0)
    monkeypatch.setattr(listening, "_EVERY", 0.2)
    server = listening.elsewhere(_hello, HOST, 0)
    listening.begin(server)
    yield server
    server.close()


def asked(server, data, source="127.0.0.3"):
    caller = socket.create_connection((HOST, int(server.effective_port)), timeout=30, source_address=(source, 0))
    caller.sendall(data)
    return caller


ASKS = b"GET / HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n"


def whole(caller):
    """All that is answered until the connection ends, be it rudely."""
    said = b""
    with contextlib.suppress(ConnectionError):
        while part := caller.recv(4096):
            said += part
    return said.decode()


def test_a_request_that_is_not_whole_in_time_is_ended_and_others_are_answered(others):
    began = time.monotonic()
    begun = b"POST / HTTP/1.1\r\nHost: x\r\nContent-Length: 9\r\n\r\n{"
    half = [asked(others, begun) for _ in range(listening.MOST_OF_ONE)]
    # No more of one address, and all of another.
    assert whole(asked(others, ASKS)) == ""
    assert "took 0" in whole(asked(others, ASKS, "127.0.0.4"))
    # Drop by drop is no way either.
    dropping = threading.Thread(target=_drops, args=(half[0],), daemon=True)
    dropping.start()
    for one in half:
        assert whole(one) == ""
    assert time.monotonic() - began > listening.SECONDS
    assert "took 0" in whole(asked(others, ASKS))


def _drops(caller):
    try:
        while True:
            time.sleep(0.3)
            caller.sendall(b" ") if caller.fileno() >= 0 else None
    except OSError:
        return


@pytest.mark.parametrize("headers", ["Content-Length: 40000", "Transfer-Encoding: chunked"])
def test_of_those_who_said_no_word_a_large_body_is_refused_by_its_head(others, headers):
    head = f"POST / HTTP/1.1\r\nHost: x\r\nCookie: a/b=1; sessionid=whelk\r\nConnection: close\r\n{headers}\r\n\r\n"
    body = b"9c40\r\n" + bytes(40000) + b"\r\n0\r\n\r\n" if "chunked" in headers else b""
    said = whole(asked(others, head.encode() + body))
    assert "took" not in said and ("413" in said or "chunked" in headers)
    gate.LET_IN["whelk"] = "maker"
    try:
        body = body or bytes(40000)
        assert "took 40000" in whole(asked(others, head.encode() + body))
    finally:
        del gate.LET_IN["whelk"]


@pytest.mark.parametrize(
    ("host", "says"),
    [
        ("0.0.0.0", "stands for all addresses"),
        ("::", "stands for all addresses"),
        ("::1", "this machine alone"),
        ("the shed", "is no address"),
        ("192.0.2.250", "no address of this machine"),
    ],
)
def test_an_address_that_cannot_be_listened_at_gets_a_sentence(host, says):
    with pytest.raises(listening.CannotListen, match=re.escape(says)):
        listening.elsewhere(_hello, host, 8765)


def test_an_address_in_use_is_told_as_that(others):
    with pytest.raises(listening.CannotListen, match="in use by another program; try --port"):
        listening.elsewhere(_hello, HOST, int(others.effective_port))


@pytest.mark.parametrize(("sent", "status"), [(3_000_000, 0), (63_000_000, 1)])
def test_the_command_tells_what_came_of_it(monkeypatch, capsys, sent, status):
    """Its parts are tried on the application itself above, and by itself on a server of its own."""
    stopped = []
    monkeypatch.setattr(strangers, "opened", lambda data: SimpleNamespace(stop=lambda: stopped.append(data)))
    monkeypatch.setattr(strangers, "ended_sessions", lambda served: [])
    monkeypatch.setattr(strangers, "without_leave", lambda served, role, found, most: (f"calls of “{role}”", 9, 0))
    monkeypatch.setattr(strangers, "half_sent", lambda served, number: (0.03, number))
    monkeypatch.setattr(strangers, "too_large", lambda served: sent)
    monkeypatch.setattr(strangers, "guesses", lambda served, number: ([403, 429], [0.02], 1.5))
    assert strangers.main(["7"]) == status and stopped
    said = capsys.readouterr().out
    assert "| requests sent by half; the desk answered in 0.03 s meanwhile | 7 | 0 |" in said
    assert "wrong words at once within 1.5 s, 1 of them looked at" in said
