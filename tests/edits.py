"""Every kind of edit on every project and starter that ships, with things and numbers of its own.

``python -m tests.edits 2000 [--seed N]``: on a server of its own. Each edit is taken or refused with a sentence; after
each the project is read and looked at, after some it is also prepared, put together, laid out and proved. Exit status 1
where anything failed.
"""

import argparse
import copy
import json
import random
import sys
import tempfile
import time
import urllib.error
from collections import Counter
from pathlib import Path

from leannotch_core.project.project import write_project

from .serving import Served
from .shipped import projects

#: After so many edits the slower looks are taken too.
SELDOM = 8

#: What numbers become now and then.
ODD = ("0", "-3", "0.001", "1e6", "1/0", "thickness * 2", "nobody", "(", "", "9" * 60, "2 in")


def named(document):
    """The things of a document by their kinds, as they are named in commands."""
    parts = document["parts"]
    return {
        "part": [part["id"] for part in parts],
        "joint": [joint["id"] for joint in document["joints"]],
        "stock": [stock["id"] for stock in document["stocks"]],
        "cutter": [cutter["id"] for cutter in document["cutters"]],
        "machine": [machine["id"] for machine in document["machines"]],
        "name": [name["name"] for name in document["names"]],
        "cut-out": [cut["id"] for part in parts for cut in part["cutouts"]],
        "bend": [bend["id"] for part in parts for bend in part["bends"]],
        "starter": [starter["id"] for starter in document["starters"]],
    }


class Edits:
    """Makes commands for documents out of ones that were made for another, the ``pattern``."""

    def __init__(self, commands, pattern, chance):
        self.commands, self.chance = commands, chance
        self.kind_of = {one: kind for kind, all_of in named(pattern).items() for one in all_of}

    def next(self, document):
        own = named(document)
        picked = {}

        def here(value):
            if isinstance(value, dict):
                return {key: here(inner) for key, inner in value.items()}
            if isinstance(value, list):
                return [here(inner) for inner in value]
            return self._changed(value, own, picked)

        command = copy.deepcopy(self.chance.choice(self.commands))
        return {**here(command), "do": command["do"]}

    def _changed(self, value, own, picked):
        if isinstance(value, str) and own.get(self.kind_of.get(value, "")):
            # The same thing is the same one throughout a command.
            return picked.setdefault(value, self.chance.choice(own[self.kind_of[value]]))
        if self.chance.random() < 0.5 or isinstance(value, bool) or not _is_number(value):
            return value
        if self.chance.random() < 0.15:
            return self.chance.choice(ODD) if isinstance(value, str) else self.chance.choice([0, -1, 7, 10**6])
        number = float(value) * self.chance.uniform(0.5, 1.5)
        return f"{number:.4g}" if isinstance(value, str) else type(value)(number)


def _is_number(value):
    try:
        float(value)
    except (TypeError, ValueError):
        return False
    return True


def asked(call, *given):
    """What a call answers: its status, and what it says."""
    try:
        return 200, call(*given)
    except urllib.error.HTTPError as error:
        return error.code, error.read().decode(errors="replace")
    except TimeoutError:
        return 0, "nothing: it hangs"


def edited(served, slugs, edits, count):
    """Edits projects in turn; yields what was done, how it was answered, and what went wrong, if anything did."""
    for number in range(count):
        slug = slugs[number % len(slugs)]
        before = served.get(f"/api/projects/{slug}")
        command = edits.next(before["document"])
        body = {"version": before["version"], "command": command}
        status, said = asked(served.post, f"/api/projects/{slug}/edit", body)
        trouble = ""
        if status not in (200, 422) or (status == 422 and not _is_sentence(said)):
            trouble = f"answered {status}: {str(said)[:300]}"
        trouble = trouble or looked(served, slug, number % SELDOM == 0)
        yield command, status, f"{slug}: {trouble}\n{json.dumps(command)}" if trouble else ""


def _is_sentence(said):
    told = json.loads(said).get("message")
    return told and "Something went wrong" not in told


def looked(served, slug, closely):
    """What is wrong with a project as it stands now, or nothing."""
    paths = [("", {200}), ("/findings", {200})]
    if closely:
        paths += [("/prepared/1", {200, 404, 422}), ("/dry-fit", {200}), ("/sheets/1.svg", {200, 404, 409, 422})]
        paths += [("/portrait?of=0", {200})]
    for path, good in paths:
        status, said = asked(served.get_bytes, f"/api/projects/{slug}{path}")
        if status not in good or "Something went wrong" in str(said):
            return f"then {path or 'it'} answers {status}: {str(said)[:300]}"
    return run(served, slug, "nest") or run(served, slug, "prove") if closely else ""


def run(served, slug, kind):
    """What is wrong with how long work on it ends, or nothing."""
    told = served.post(f"/api/projects/{slug}/{kind}", {"seconds": 1})
    until = time.monotonic() + 120
    while told["state"] in ("waiting", "running") and time.monotonic() < until:
        time.sleep(0.05)
        told = served.get(f"/api/runs/{told['id']}")
    ended = told["state"] in ("done", "failed") and "fault of ours" not in told["message"]
    return "" if ended else f"then {kind} ends {told['state']}: {told['message']}"


def opened(served, chosen):
    """Projects of their names put into a workshop; their slugs."""
    all_of = projects()
    return [served.post_bytes("/api/projects/open", write_project(all_of[name]))["slug"] for name in chosen]


def main(arguments):
    # Needs Django for the commands of the tests beside it.
    from .server.test_commands import DONE, kit

    parser = argparse.ArgumentParser(prog="python -m tests.edits")
    parser.add_argument("count", type=int, nargs="?", default=200)
    parser.add_argument("--seed", type=int, default=1)
    given = parser.parse_args(arguments)
    pattern = json.loads(write_project(kit()))
    edits = Edits([command for command, *_ in DONE], pattern, random.Random(given.seed))
    answers, kinds, failed = Counter(), set(), []
    with tempfile.TemporaryDirectory() as data:
        served = Served(Path(data))
        try:
            slugs = opened(served, list(projects()))
            for command, status, trouble in edited(served, slugs, edits, given.count):
                answers[status] += 1
                kinds.add(command["do"])
                if trouble:
                    failed.append(trouble)
                    print(trouble, flush=True)
        finally:
            served.stop()
    print(
        f"{given.count} edits of {len(kinds)} kinds over {len(slugs)} projects: {answers[200]} taken, "
        f"{answers[422]} refused with a sentence, {len(failed)} failed."
    )
    return bool(failed)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
