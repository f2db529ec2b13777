"""Calls as the browser makes them."""

import json


def post(client, path, body):
    return client.post(f"/api/{path}", json.dumps(body), content_type="application/json")


def edit(client, slug, version, command):
    return post(client, f"projects/{slug}/edit", {"version": version, "command": command})
