"""Who is answered, what a page of another may do, how a fault is told, and what of it is logged."""

import gzip
import json
import re

import pytest
from django.conf import settings
from workshop.api import projects
from workshop.demo import load_demo

from ..projects import ROOT

pytestmark = pytest.mark.django_db


def asset():
    """One of the built files whose name changes with its content."""
    return f"/assets/{next((settings.WEB / 'assets').glob('index-*.js')).name}"


PAGES = ["/", "/index.html", "/projects/any/shape", "/mark.svg", "/api/projects", "/api/nothing", "/assets/nothing.js"]


@pytest.mark.parametrize("path", PAGES)
def test_every_answer_is_guarded_files_and_faults_too(client, path):
    answer = client.get(path)
    policy = answer["Content-Security-Policy"]
    assert answer["X-Frame-Options"] == "DENY" and "frame-ancestors 'none'" in policy and "default-src 'self'" in policy
    assert answer["X-Content-Type-Options"] == "nosniff"
    foreign = client.get(path, headers={"host": "shore.example"})
    assert foreign.status_code == 400 and foreign.json()["message"].startswith("Lean Notch answers on this machine's")


def test_what_changes_its_name_with_its_content_is_kept_and_all_else_asked_for_again(client):
    assert "immutable" in client.get(asset())["Cache-Control"]
    packed = client.get(asset(), headers={"accept-encoding": "gzip"})
    plain = b"".join(client.get(asset()).streaming_content)
    assert packed["Content-Encoding"] == "gzip" and gzip.decompress(b"".join(packed.streaming_content)) == plain
    for path in ("/index.html", "/", "/mark.svg"):
        assert client.get(path)["Cache-Control"] in ("no-cache", "max-age=0, public"), path


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({}, 201),
        ({"origin": "http://testserver"}, 201),
        ({"origin": "http://testserver", "sec-fetch-site": "same-origin"}, 201),
        ({"origin": "http://shore.example"}, 403),
        ({"origin": "null"}, 403),
        ({"origin": "http://testserver:81"}, 403),
        ({"sec-fetch-site": "cross-site"}, 403),
        ({"sec-fetch-site": "same-site"}, 403),
        ({"host": "testserver.shore.example", "origin": "http://testserver.shore.example"}, 400),
    ],
)
def test_changes_are_taken_from_our_own_pages_only(client, headers, status):
    body = json.dumps({"name": "Kit"})
    answer = client.post("/api/projects", body, content_type="application/json", headers=headers)
    assert answer.status_code == status
    assert len(client.get("/api/projects").json()) == (status == 201)


def test_where_nothing_is_that_is_said_in_json(client):
    for path in ("/api/nothing", "/api/projects/none", "/api/runs/7"):
        answer = client.get(path)
        assert answer.status_code == 404 and answer.json()["message"]
    assert client.post("/api/projects", "{", content_type="application/json").json()["message"]


def test_a_fault_of_ours_is_told_with_a_reference_that_the_log_has(client, monkeypatch, caplog):
    def fails(*_):
        raise ZeroDivisionError("a fault of ours")

    monkeypatch.setattr(projects.revisions, "create", fails)
    answer = client.post("/api/projects", json.dumps({"name": "Kit"}), content_type="application/json")
    message = answer.json()["message"]
    reference = message.split()[-1].rstrip(".")
    assert answer.status_code == 500 and "ZeroDivisionError" not in message and "Traceback" not in message
    [record] = [record for record in caplog.records if reference in record.getMessage()]
    assert record.exc_info and record.exc_info[0] is ZeroDivisionError


def test_a_body_that_is_too_large_is_refused(client):
    answer = client.post("/api/projects", b" " * 10_000_001, content_type="application/json")
    assert answer.status_code == 413 and "too large" in answer.json()["message"]


#: What stands in a path for other than a number.
_WORDS = {"slug": "sorting-tray", "kind": "dxf", "part": "floor", "how": "box"}


def _numbered_calls():
    """Calls of the schema with a number in their path, each with numbers that nothing has."""
    for path, ways in json.loads((ROOT / "web" / "openapi.json").read_text())["paths"].items():
        for number in (0, -3, 2**63, 10**30):
            named = re.sub(r"\{(\w+)\}", lambda found, n=number: str(_WORDS.get(found[1], n)), path)
            if str(number) in named:
                yield from ((way.upper(), named) for way in ways)


def test_numbers_that_nothing_has_get_a_sentence_wherever_they_are_sent(client):
    load_demo()
    json_body = {"content_type": "application/json"}
    tried, others = 0, []
    for way, path in _numbered_calls():
        answer = client.generic(way, path, "" if way == "GET" else '{"version": 1}', **json_body)
        tried += 1
        # What is not there is away already.
        fine = {404, 405, 409, 413, 422, *([204] if way == "DELETE" else [])}
        if answer.status_code not in fine:
            others.append((way, path, answer.status_code))
    assert tried > 100 and others == []
    large = json.dumps({"numbers": [2**70, 1], "versions": [1, 1]})
    answer = client.post("/api/together", large, **json_body)
    assert answer.status_code == 422 and "larger than any" in answer.json()["message"]
