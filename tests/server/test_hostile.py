"""How hostile files are made, sent and judged; `python -m tests.hostile 1000` sends as many as you like."""

import io
import json
import random
import urllib.error
import urllib.request
from types import SimpleNamespace

import pytest

from ..hostile import __main__ as command
from ..hostile.places import PLACES, Sender, faults_of
from ..hostile.spoilt import WAYS

SENTENCE = json.dumps({"message": "The file is broken at line 3."}).encode()


@pytest.mark.parametrize("way", WAYS, ids=lambda way: way.__name__)
@pytest.mark.parametrize("data", [b"", b"7", b'{"a": [1, 2.5]}' * 40])
def test_every_way_spoils_any_file_and_the_same_one_the_same(way, data):
    made = [way(data, random.Random(seed)) for seed in (1, 1, 2, 3, 4, 5)]
    assert made[0] == made[1] and (not data or any(one != data for one in made))


@pytest.mark.parametrize(
    ("status", "said", "fault"),
    [
        (422, SENTENCE, ""),
        (500, SENTENCE, "a fault of ours"),
        (422, b"<h1>Bad Request</h1>", "no sentence"),
        (422, b'{"detail": []}', "no sentence"),
        (422, b'{"message": "invalid literal"}', "worded by a program"),
        (422, b'{"message": "ValueError(9) came of it."}', "worded by a program"),
    ],
)
def test_a_refusal_that_is_no_sentence_is_a_fault(status, said, fault):
    found = "; ".join(faults_of(status, said))
    assert fault in found and bool(fault) == bool(found)


@pytest.mark.parametrize("place", PLACES)
def test_what_fails_anywhere_on_its_way_is_told(monkeypatch, place):
    """Of a server whose first answer is sound and whose second is a fault."""
    answers = [b'{"id": 1, "run": 1, "slug": "x", "choices": {}}', None]

    def answered(request, timeout):
        sound = answers.pop(0) if answers else None
        if sound is None:
            raise urllib.error.HTTPError(request.full_url, 500, "", {}, io.BytesIO(b"Traceback"))
        return Answer(sound)

    monkeypatch.setattr(urllib.request, "urlopen", answered)
    sender = Sender(SimpleNamespace(url="http://127.0.0.1:9"))
    first, second = (sender.send(place, "a.svg", b"<svg/>") for _ in range(2))
    assert any("fault of ours" in fault for fault in [*first.faults, *second.faults])


class Answer:
    status = 200

    def __init__(self, data):
        self.read = lambda: data

    def __enter__(self):
        return self

    def __exit__(self, *_):
        pass


@pytest.mark.parametrize(("worse", "waited", "status"), [([], 0.2, 0), (["a file: 500"], 0.2, 1), ([], 9.0, 1)])
def test_the_command_tells_what_came_of_it(monkeypatch, capsys, tmp_path, worse, waited, status):
    class Waiting(command.Others):
        def __enter__(self):
            self.longest = waited
            return self

        def __exit__(self, *_):
            pass

    counted = command.Counter({("a file brought", "refused"): 7, ("a file brought", "failed"): len(worse)})
    of_one = command.defaultdict(float, {"a file brought": 1.25})
    monkeypatch.setattr(command, "Served", lambda data: SimpleNamespace(stop=lambda: None))
    monkeypatch.setattr(command, "Others", Waiting)
    monkeypatch.setattr(command, "tried", lambda served, number, seed: (counted, of_one, of_one, worse))
    assert command.main(["9"]) == status
    said = capsys.readouterr().out
    assert f"| a file brought | 0 | 7 | {len(worse)} | 1.2 | 1 |" in said and f"waited {waited:.2f} s" in said
