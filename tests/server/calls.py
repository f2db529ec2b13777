"""Calls as the browser makes them."""

import json
import secrets

from django.db import connection


def post(client, path, body):
    return client.post(f"/api/{path}", json.dumps(body), content_type="application/json")


def fresh_key():
    """What a page names an order to hand in."""
    return secrets.token_hex(8)


def shown(client, slug):
    return client.get(f"/api/projects/{slug}").json()


def edit(client, slug, version, command):
    return post(client, f"projects/{slug}/edit", {"version": version, "command": command})


def edited(client, slug, version, command):
    """The project after an edit: as its answer makes it of what was shown before, which is as it is shown from then."""
    before = shown(client, slug)
    now = merged(before, edit(client, slug, version, command).json())
    assert now == shown(client, slug)
    return now


def merged(before, changes):
    """What was shown, with what an edit changed, as the browser takes it."""
    whole = {key: value for key, value in changes.items() if key not in ("since", "document_parts", "document_joints")}
    parts, joints = (_listed(before["document"][name], changes[f"document_{name}"]) for name in ("parts", "joints"))
    rows = [row for row in before["ledger"] if row["joint"] not in changes["ledger"]]
    rows += [row for changed in changes["ledger"].values() for row in changed]
    values = before["values"] | changes["values"]
    return whole | {
        "document": changes["document"] | {"parts": parts, "joints": joints},
        "parts": _listed(before["parts"], changes["parts"]),
        "ledger": [row for joint in joints for row in rows if row["joint"] == joint["id"]],
        "values": {path: value for path, value in values.items() if value is not None},
    }


def _listed(before, listed):
    known = {thing["id"]: thing for thing in (*before, *listed["changed"])}
    return [known[name] for name in listed["ids"]]


def watched(monkeypatch, slow):
    """A list that gets the name of each call of what is slow, and whether the database was held meanwhile."""
    held = []
    for room, name in slow:
        real = getattr(room, name)

        def noted(*given, real=real, name=name, **more):
            held.append((name, connection.in_atomic_block))
            return real(*given, **more)

        monkeypatch.setattr(room, name, noted)
    return held
