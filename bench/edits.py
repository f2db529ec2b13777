"""Edits through the API."""

from __future__ import annotations

import json

from bench.documents import grid
from bench.figure import Figure, many, median_ms


def edit_through_the_api() -> Figure:
    from django.test import Client

    client = Client(headers={"host": "127.0.0.1"})
    version = client.get("/api/projects/sorting-tray").json()["version"]
    lengths = iter(range(241, 1000))

    def edit() -> None:
        nonlocal version
        command = {"do": "put name", "name": {"name": "tray_length", "size": {"text": str(next(lengths))}}}
        body = json.dumps({"version": version, "command": command})
        answer = client.post("/api/projects/sorting-tray/edit", body, content_type="application/json")
        version = answer.json()["version"]

    return Figure("an edit of the whole tray through the API, ms", median_ms(edit), "at most 100 ms", 100)


def large_edit() -> list[Figure]:
    """One part's edit in a project of 200 parts and 400 joints: until it is answered, and what is sent."""
    from django.test import Client
    from workshop.revisions import create

    document = grid(many(200), many(400))
    project = create(document)
    client = Client(headers={"host": "127.0.0.1", "accept-encoding": "gzip"})
    part = document.parts[3].model_dump(mode="json")
    version, sent = project.version, 0
    lengths = iter(range(201, 1000))

    def edit() -> None:
        nonlocal version, sent
        part["shape"]["width"]["text"] = str(next(lengths))
        body = json.dumps({"version": version, "command": {"do": "put part", "part": part}})
        answer = client.post(f"/api/projects/{project.slug}/edit", body, content_type="application/json")
        version, sent = version + 1, len(answer.content)

    return [
        Figure("an edit at 200 parts and 400 joints, ms", median_ms(edit), "goal 150 ms", 150),
        Figure("what its answer sends, kB", sent / 1000, "goal 60 kB", 60),
    ]
