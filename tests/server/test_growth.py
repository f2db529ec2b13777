"""A few edits and what they cost; `python -m tests.growth 20000` for as many as you like."""

import json
import os
from types import SimpleNamespace

import pytest

from .. import growth
from ..growth import DEARER, LARGEST, MORE, Look


class Here:
    """The application as it is asked in this process."""

    def __init__(self, client, data):
        self.client, self.data, self.process = client, data, SimpleNamespace(pid=os.getpid())
        (data / "notch.sqlite3").write_bytes(bytes(500_000))

    def get(self, path):
        return self.client.get(path).json()

    def post(self, path, body):
        answer = self.client.post(path, json.dumps(body), content_type="application/json")
        assert answer.status_code == 200, answer.content[:300]
        return answer.json()


def test_each_edit_is_made_and_measured(client, tray, tmp_path):
    looks = list(growth.edited(Here(client, tmp_path), "sorting-tray", 6, 2))
    assert [look.edits for look in looks] == [3, 6]
    assert client.get("/api/projects/sorting-tray").json()["version"] == tray.version + 6
    assert all(look.cost > 0 and look.ratio > 0 and look.memory > 50 and look.file == 0.5 for look in looks)


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"ratio": 1 + DEARER - 0.01, "memory": 400 + MORE - 1, "file": LARGEST}, []),
        ({"ratio": 1 + DEARER + 0.01, "cost": 150}, ["An edit costs 21% more than at first."]),
        ({"ratio": 1.5, "cost": 100 * (1 + DEARER) + 1}, ["An edit costs 21% more than at first."]),
        ({"ratio": 1.5, "cost": 100 * (1 + DEARER) - 1}, []),
        ({"memory": 400 + MORE + 1}, ["Memory grew by 41 MB in the second half."]),
        ({"file": LARGEST + 0.1}, ["The database has 40.1 MB."]),
    ],
)
def test_what_grew_too_much_is_told(change, says):
    looks = [Look(n, 100, 1.0, 400, 1.0) for n in range(1, 11)]
    assert growth.faults([*looks[:-1], looks[-1]._replace(**change)]) == says
