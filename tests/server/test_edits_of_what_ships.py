"""Ordinary edits of every project that ships: answered, stored, and read, prepared and drawn afterwards."""

import pytest
from workshop.demo import load_demo
from workshop.models import StoredProject

from .calls import edited, shown

EDITS = (
    {"do": "put name", "name": {"name": "own_size", "size": {"text": "5"}}},
    {"do": "set fit", "fit": "press"},
    {"do": "put name", "name": {"name": "own_size", "size": {"text": "7"}}},
)


@pytest.fixture
def slugs(db):
    load_demo()
    return list(StoredProject.objects.values_list("slug", flat=True))


def test_an_ordinary_edit_of_any_project_is_answered_and_stays(client, slugs):
    assert {"drip-bracket", "tide-gauge-rest", "boot-rack"} <= set(slugs)
    for slug in slugs:
        if StoredProject.objects.get(slug=slug).variant_of_id:
            continue
        for command in EDITS:
            # What is made ready is what the next edit is compared with.
            assert client.get(f"/api/projects/{slug}/prepared/1").status_code == 200, slug
            after = edited(client, slug, shown(client, slug)["version"], command)
            assert after["version"] == shown(client, slug)["version"], (slug, command["do"])
        assert client.get(f"/api/projects/{slug}/prepared/1").status_code == 200, slug
        names = [
            name["size"]["text"] for name in shown(client, slug)["document"]["names"] if name["name"] == "own_size"
        ]
        assert (names, shown(client, slug)["document"]["fit"]) == (["7"], "press"), slug
