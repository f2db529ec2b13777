"""Documents that were tampered with: each is refused with a sentence, or opened, and then everything of it works."""

import copy
import json

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from ..projects import ROOT
from ..properties import tried
from .calls import post

DEMOS = [json.loads(path.read_bytes()) for path in sorted((ROOT / "demo").glob("*.json"))]
WEIRD = [
    "1e999", "-1e999", "NaN", "1e308", "-1", "0", "1e-320", "99999999999999999999", "null", "true", "[]", "{}", '""',
    '"kerf"', '"0"', '"-3"', '"1/0"', '"width"', '"thickness*thickness"', '"\\u0000\\ufffe"', '"\\ud800"', '"1e9"',
    '"1/3"', '"top"', '"floor"', '"none"', '"' + "9" * 90 + '"', '"' + "(" * 100 + '"', '[null]', '[[]]', '{"a": 1}',
]  # fmt: skip


def places(value, path=()):
    """Every place in a JSON value."""
    if path:
        yield path
    inner = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for step, child in inner:
        yield from places(child, (*path, step))


PLACES = [(which, place) for which, document in enumerate(DEMOS) for place in places(document)]


def mutated(changes):
    """A demo document with some of its values replaced, some doubled and some taken away."""
    which = changes[0][0][0]
    document = copy.deepcopy(DEMOS[which])
    texts = {}
    for number, ((of, place), change) in enumerate(changes):
        thing = document
        try:
            for step in place[:-1]:
                thing = thing[step]
            if of != which:
                continue
            if change == "gone":
                del thing[place[-1]]
            elif change == "twice":
                thing.append(copy.deepcopy(thing[place[-1]]))
            else:
                thing[place[-1]] = f"@{number}@"
                texts[f'"@{number}@"'] = change
        except (KeyError, IndexError, TypeError, AttributeError):
            continue
    text = json.dumps(document)
    for mark, value in texts.items():
        text = text.replace(mark, value)
    return text.encode()


changes = st.lists(
    st.tuples(st.sampled_from(PLACES), st.sampled_from([*WEIRD, "gone", "twice"])), min_size=1, max_size=4
)


def works(answer, *allowed):
    assert answer.status_code in allowed, answer.content[:300]
    if answer.status_code >= 400:
        message = answer.json()["message"]
        assert message and "Something went wrong" not in message


@pytest.mark.django_db
@settings(max_examples=tried(40), deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(changes)
def test_a_mutated_document_is_refused_or_works_and_what_was_taken_reads_back(client, several):
    data = mutated(several)
    opened = client.post("/api/projects/open", data, content_type="application/octet-stream")
    works(opened, 201, 422)
    listed = client.get("/api/projects").json()
    assert all(project["trouble"] == "" for project in listed)
    if opened.status_code != 201:
        return
    told = opened.json()
    slug = told["slug"]
    assert client.get(f"/api/projects/{slug}").json() == told
    again = client.post(
        "/api/projects/open", client.get(f"/api/projects/{slug}/file").content, content_type="application/octet-stream"
    )
    assert again.json()["document"] == told["document"]
    works(post(client, f"projects/{slug}/edit", {"version": 1, "command": {"do": "set unit", "unit": "in"}}), 200, 422)
    works(client.get(f"/api/projects/{slug}/dry-fit"), 200)
    works(client.get(f"/api/projects/{slug}/plans/1"), 200, 404, 422)
    works(client.get(f"/api/projects/{slug}/sheets/1.svg"), 200, 404, 409, 422)
    for kind in ("prove", "fit"):
        run = post(client, f"projects/{slug}/{kind}", {}).json()
        assert run["state"] in ("done", "failed") and "fault of ours" not in run["message"]
    client.delete(f"/api/projects/{slug}")
    client.delete(f"/api/projects/{again.json()['slug']}")
