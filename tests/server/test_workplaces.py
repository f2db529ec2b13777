"""A workshop served by several processes: where a call goes, what becomes of it when one ends, and who may call."""

import io
import json
import os
import signal
import socket
import threading
import time
import urllib.error
import urllib.request
from collections import Counter
from select import select
from types import SimpleNamespace

import pytest
from served import listening, workplaces
from served.behind import Answer, CutOff, Unreached, Wire, behind
from served.workplaces import Workplaces, shared

from ..load import brought_back, failures, worked, workshop

KEY = "whelks in a row"


def environ(method="GET", path="/api/projects/tray", body=b"", **more):
    """A call as it comes to an application."""
    return {
        "REQUEST_METHOD": method,
        "PATH_INFO": path,
        "CONTENT_LENGTH": str(len(body)) if body else "",
        "wsgi.input": io.BytesIO(body),
        "REMOTE_ADDR": "192.0.2.7",
        **more,
    }


def asked(application, call):
    """The status, headers and body of what an application answers."""
    said = []
    body = b"".join(application(call, lambda status, headers: said.extend((status, dict(headers)))))
    return int(said[0][:3]), said[1], body


def told(call, start_response):
    """An application that says what it was asked."""
    body = call["wsgi.input"].read()
    names = ("REQUEST_METHOD", "PATH_INFO", "QUERY_STRING", "REMOTE_ADDR", "CONTENT_TYPE", "HTTP_HOST", "HTTP_COOKIE")
    said = {name: call.get(name, "") for name in names} | {"body": body.decode("latin-1")}
    said["keys"] = [name for name in call if name.startswith("HTTP_NOTCH")]
    start_response("201 Created", [("Content-Type", "application/json"), ("Set-Cookie", "a=1"), ("Set-Cookie", "b=2")])
    return [json.dumps(said).encode()]


def until(what, seconds=60):
    end = time.monotonic() + seconds
    while not what():
        assert time.monotonic() < end
        time.sleep(0.05)


@pytest.fixture(scope="module")
def other_end():
    """The port of a process that answers whoever has the key, as it is at a workplace."""
    server = listening.here(behind(told, KEY), 0)
    # It goes with the tests: what waits for calls is not asked to stop.
    threading.Thread(target=server.run, daemon=True).start()
    return int(server.effective_port)


def test_a_call_comes_to_a_workplace_as_it_came_to_the_server(other_end):
    call = environ(
        "POST",
        "/api/projects/a tray \xc3\xa9%41/edit",
        b"\x00a body\xff",
        QUERY_STRING="one=1%202&two=\xe9 3",
        CONTENT_TYPE="image/png",
        HTTP_HOST="workshop:8000",
        HTTP_COOKIE="sessionid=x; csrftoken=y",
        HTTP_CONNECTION="close",
        # What a caller writes there himself counts for nothing.
        HTTP_NOTCH_FROM="127.0.0.1",
        HTTP_NOTCH_KEY="a guess",
    )
    wire = Wire(other_end, KEY)
    for _ in range(3):
        status, headers, body = wire.ask(call)
        said = json.loads(body)
        assert status == 201 and [value for name, value in headers if name == "Set-Cookie"] == ["a=1", "b=2"]
        assert not {name.lower() for name, _ in headers} & {"server", "date", "connection"}
        assert said == {
            "REQUEST_METHOD": "POST",
            "PATH_INFO": "/api/projects/a tray \xc3\xa9%41/edit",
            "QUERY_STRING": "one=1%202&two=%E9%203",
            "REMOTE_ADDR": "192.0.2.7",
            "CONTENT_TYPE": "image/png",
            "HTTP_HOST": "workshop:8000",
            "HTTP_COOKIE": "sessionid=x; csrftoken=y",
            "body": "\x00a body\xff",
            "keys": [],
        }


@pytest.mark.parametrize("headers", [{}, {"Notch-Key": "a guess"}, {"Notch-Key": "é"}, {"Notch-Key": KEY[:-1]}])
def test_without_the_key_nobody_is_answered_at_a_workplace(other_end, headers):
    with pytest.raises(urllib.error.HTTPError, match="403"):
        urllib.request.urlopen(
            urllib.request.Request(f"http://127.0.0.1:{other_end}/", headers={"Notch-From": "127.0.0.1", **headers})
        )


def test_a_wire_says_whether_a_call_may_have_been_taken():
    with socket.create_server(("127.0.0.1", 0)) as server:
        wire = Wire(server.getsockname()[1], KEY)

        def answers_once_and_ends():
            for answer in (b"HTTP/1.1 200 OK\r\nContent-Length: 2\r\n\r\nok", b"", b"HTTP/1.1 200 OK\r\nContent-"):
                caller, _ = server.accept()
                caller.recv(65536)
                caller.sendall(answer)
                caller.close()

        ends = threading.Thread(target=answers_once_and_ends)
        ends.start()
        assert wire.ask(environ())[2] == b"ok"
        # Until the end of it has come here too.
        until(lambda: select([wire._idle.queue[0][0].sock], [], [], 0)[0])
        # The connection that was kept is ended at the other end, so another is made: nothing is sent into the void.
        for _ in range(2):
            with pytest.raises(CutOff):
                wire.ask(environ())
        ends.join()
    with pytest.raises(Unreached):
        wire.ask(environ())


class Way:
    """A way to a workplace that answers, or does not, and remembers what it was asked."""

    def __init__(self, says):
        self.says, self.asked = says, []

    def ask(self, call):
        self.asked.append(call["wsgi.input"].read())
        if isinstance(self.says, type):
            raise self.says
        return Answer(200, [], self.says)


def served_by(*ways):
    """An application at these ways, in their order, and where else nothing answers: itself."""
    return shared(told, SimpleNamespace(number=2, wires=lambda whose: ways))


@pytest.mark.parametrize(
    ("call", "first", "comes"),
    [
        (("GET", "/api/projects/tray"), CutOff, "there"),
        (("POST", "/api/projects/tray/nest"), Unreached, "there"),
        (("POST", "/api/projects/tray/nest"), CutOff, "may not be stored"),
        (("DELETE", "/api/projects/tray"), CutOff, "may not be stored"),
        (("PUT", "/api/rates"), CutOff, "may not be stored"),
        # What names its order or the version it stands on is done once, however often it is asked.
        (("POST", "/api/projects/tray/hand-in"), CutOff, "there"),
        (("POST", "/api/projects/tray/edit"), CutOff, "there"),
        (("POST", "/api/projects/tray/undo"), CutOff, "there"),
        (("POST", "/api/projects/tray/sheets/2/cut"), CutOff, "there"),
        (("POST", "/api/queue/3/cut"), CutOff, "may not be stored"),
        (("GET", "/api/projects/tray"), b"here at once", "here at once"),
    ],
)
def test_a_call_whose_workplace_ends_goes_on_in_another_unless_it_may_be_done_already(call, first, comes):
    ways = Way(first), Way(b"there")
    status, _, body = asked(served_by(*ways), environ(*call))
    assert comes in body.decode() and status == (503 if "stored" in comes else 200)
    assert len(ways[1].asked) == (comes == "there")


def test_where_no_workplace_answers_the_server_does_and_its_own_calls_always():
    call = environ("POST", "/api/projects/tray/nest", b'{"seconds": 3}')
    status, _, body = asked(served_by(Way(Unreached), Way(Unreached)), call)
    assert status == 201 and json.loads(body)["body"] == '{"seconds": 3}'
    way = Way(b"there")
    for path in ("/api/enter", "/api/leave", "/api/role", "/api/words", "/api/makers/3/word", "/projects/tray", "/"):
        assert asked(served_by(way), environ("POST", path))[0] == 201
    assert way.asked == [] and shared(told, SimpleNamespace(number=0)) is told


def test_a_project_has_one_workplace_and_the_same_one_again_when_that_is_back():
    house = Workplaces(2)
    house._all = [SimpleNamespace(number=at, wire=f"wire {at}") for at in range(2)]
    first = {name: house.wires(name)[0] for name in ("tray", "rack", "stand", "bracket")}
    assert Counter(first.values()) == {"wire 0": 2, "wire 1": 2}
    assert all(house.wires(name)[0] == line for name, line in first.items())
    house._all[0].wire = None
    assert {house.wires(name)[0] for name in first} == {"wire 1"} and len(house.wires("tray")) == 1
    house._all[0].wire = "wire 0, anew"
    assert [house.wires(name)[0][:6] for name in first] == list(first.values())


def test_no_more_projects_are_known_than_there_is_room_for(monkeypatch):
    monkeypatch.setattr(workplaces, "_MOST", 3)
    house = Workplaces(2)
    for name in ("tray", "rack", "stand", "tray", "bracket"):
        house.wires(name)
    assert set(house._homes) == {"stand", "tray", "bracket"}


def test_with_one_processor_the_server_does_all_itself(monkeypatch):
    for number, wanted in ((1, 0), (2, 2), (16, 16)):
        monkeypatch.setattr(workplaces.os, "sched_getaffinity", lambda _, n=number: set(range(n)))
        assert workplaces.how_many() == wanted


# Served


@pytest.fixture(scope="module")
def house(tmp_path_factory):
    served, cards = workshop(tmp_path_factory.mktemp("workshop"), 3)
    yield served, cards
    served.kill()


def test_whatever_ends_beside_the_server_nothing_is_lost_and_another_takes_its_place(house):
    served, cards = house
    until(lambda: len(served.workplaces()) == workplaces.how_many())
    before = set(served.beside().values())
    work = worked(served, cards, 12, kill=True)
    assert failures(work) == {} and not any(maker.lost() for maker in work.makers)
    assert {what for _, what in work.kills} >= {"nesting", "checks", "workplace 1", "workplace 2"}
    assert sum(len(maker.waits["edit"]) for maker in work.makers) > 6
    until(lambda: len(served.beside()) == len(before) and not before & set(served.beside().values()))
    assert len(work.holds) > 20 and work.memory[-1] > 50
    # What was copied in the midst of it has all that was acknowledged before.
    assert work.copied and brought_back(served, work) == []


def test_the_server_goes_on_alone_while_no_workplace_is_there(house):
    served, _ = house
    for pid in served.workplaces():
        os.kill(pid, signal.SIGKILL)
    assert served.get("/api/projects/sorting-tray")["slug"] == "sorting-tray"


def test_workplaces_end_with_their_server(house):
    served, _ = house
    until(lambda: len(served.workplaces()) == workplaces.how_many())
    pids = served.beside().values()
    served.kill()
    until(lambda: not any(os.path.exists(f"/proc/{pid}") for pid in pids))
