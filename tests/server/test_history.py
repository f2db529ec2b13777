"""What is kept of the past, how it is stored, and that a database does not grow without end."""

import sqlite3
from contextlib import closing
from datetime import UTC, datetime, timedelta

import pytest
import zstandard
from django.db import connection, connections
from django.db.migrations.executor import MigrationExecutor
from django.utils import timezone
from hypothesis import given
from hypothesis import strategies as st
from workshop import history, storage
from workshop.history import ALL, HOURLY, LATEST, Past, superfluous
from workshop.models import Ground, Revision, StoredProject, Version
from workshop.packed import MOST_SHARE, pack, unpack

from .calls import edit, post

NOW = datetime(2026, 5, 20, 12, 0, tzinfo=UTC)


def steps(ages):
    """One after the other, from the oldest: each with its age."""
    return [Past(n, n - 1 or None, NOW - age) for n, age in enumerate(ages, 1)]


def test_the_rule_of_what_is_kept_on_both_sides_of_each_number():
    late = [timedelta(0)] * LATEST
    minutes = [timedelta(days=2, minutes=m) for m in (59, 40, 20)]
    assert superfluous(steps([*minutes, *late]), None, NOW) == [2, 1]
    # One more step and the oldest of the latest is one of many; without any later ones all of them are.
    assert superfluous(steps([*minutes, *late[3:]]), None, NOW) == []
    assert superfluous(steps([*minutes, *late[2:]]), None, NOW) == [1]
    for edge, just, before in (
        (ALL, [ALL - timedelta(seconds=1)] * 3, []),
        (ALL, [ALL] * 3, [2, 1]),
        (HOURLY, [HOURLY - timedelta(seconds=1), HOURLY - timedelta(hours=1, seconds=1)], []),
        (HOURLY, [HOURLY + timedelta(hours=2), HOURLY + timedelta(hours=1)], [1]),
    ):
        assert superfluous(steps([*just, *late]), None, NOW) == before, edge


@given(st.lists(st.integers(0, 40 * 24 * 60), max_size=500), st.integers(0, 500))
def test_whatever_the_ages_what_can_be_undone_and_one_of_each_day_is_kept(minutes, back):
    past = steps([timedelta(minutes=m) for m in sorted(minutes, reverse=True)])
    standing = max(1, len(past) - back) if past else None
    gone = set(superfluous(past, standing, NOW))
    assert not gone & {step.id for step in past if NOW - step.created < ALL}
    assert not gone & set(range((standing or 0) - LATEST, (standing or 0) + 1))
    kept_days = {step.created.date() for step in past if step.id not in gone}
    assert kept_days == {step.created.date() for step in past}
    # And what is thinned once stays as it is.
    left = [step for step in past if step.id not in gone]
    assert not superfluous(left, standing, NOW)


def lengths(client, slug):
    """All the lengths that undo goes back to, from the newest."""
    shown = client.get(f"/api/projects/{slug}").json()
    found = []
    while True:
        found += [n["size"]["text"] for n in shown["document"]["names"] if n["name"] == "tray_length"]
        if shown["undo"] is None:
            return found
        shown = post(client, f"projects/{slug}/undo", {"version": shown["version"]}).json()
        shown = client.get(f"/api/projects/{slug}").json()


@pytest.mark.django_db
def test_steps_that_are_thinned_out_leave_the_others_as_they_were(client, tray, monkeypatch):
    monkeypatch.setattr(history, "LATEST", 3)
    monkeypatch.setattr(history, "_PAUSE", 0)
    version = tray.version
    for length in range(200, 212):
        name = {"name": "tray_length", "size": {"text": str(length)}}
        version = edit(client, "sorting-tray", version, {"do": "put name", "name": name}).json()["version"]
    ids = list(Revision.objects.filter(project=tray).order_by("id").values_list("id", flat=True))
    documents = {step: unpack(step) for step in ids}
    Version.objects.create(project=tray, revision_id=ids[4], name="Of the east bay")
    long_ago = timezone.now() - timedelta(days=30)
    Revision.objects.filter(project=tray).update(created=long_ago)
    gone = history.thin()
    left = list(Revision.objects.filter(project=tray).order_by("id").values_list("id", flat=True))
    assert history.thin() == 0
    # Those that have a name, the latest ones, and those that can be undone from where it stands.
    assert left == [tray.current_id, ids[4], *ids[-4:]] and gone == len(ids) - len(left)
    assert {step: unpack(step) for step in left} == {step: documents[step] for step in left}
    assert Version.objects.get(name="Of the east bay").revision_id == ids[4]
    named = [documents_length(documents[step]) for step in (ids[4], tray.current_id)]
    assert lengths(client, "sorting-tray") == ["211", "210", "209", "208", *named]
    assert not Ground.objects.filter(revisions=None)


def documents_length(text):
    return text.split('"name":"tray_length"')[1].split('"text":"')[1].split('"')[0]


@pytest.mark.django_db
def test_a_step_takes_little_and_a_whole_document_is_stored_anew_where_it_would_take_much(client, tray):
    version, whole = tray.version, len(unpack(tray.current_id))
    for length in range(200, 230):
        name = {"name": "tray_length", "size": {"text": str(length)}}
        version = edit(client, "sorting-tray", version, {"do": "put name", "name": name}).json()["version"]
    mine = Revision.objects.filter(project=tray, id__gt=tray.current_id)
    assert len(mine) == 30 and all(len(step.difference) < whole / 50 for step in mine)
    assert Ground.objects.filter(project=tray).count() <= 2
    tray.refresh_from_db()
    ground = len(tray.current.ground.whole)
    other = pack("".join(chr(33 + (n * n) % 1999) for n in range(20000)), tray.current)
    assert other.ground_id is None and other.whole
    assert len(pack(unpack(tray.current_id), tray.current).difference) <= ground * MOST_SHARE


def test_documents_of_an_older_database_are_the_same_after_an_update(tmp_path, django_db_blocker):
    """The very texts that were stored whole are had back from their differences."""
    connections.databases["older"] = {**connection.settings_dict, "NAME": str(tmp_path / "older.sqlite3")}
    older = connections["older"]
    texts = {n: f'{{"name": "A day’s tray", "of": {list(range(n, n + 300))}}}' for n in range(1, 121)}
    try:
        with django_db_blocker.unblock():
            MigrationExecutor(older).migrate([("workshop", "0013_offcuts_of_steps")])
            fill(older, texts)
            MigrationExecutor(older).migrate([("workshop", "0014_packed_revisions")])
            assert Ground.objects.using("older").count() == 3
            # And all that came since.
            now = MigrationExecutor(older)
            now.migrate(now.loader.graph.leaf_nodes("workshop"))
            found = list(Revision.objects.using("older").select_related("ground").order_by("id"))
        assert {step.id: text_of(step) for step in found} == texts
        assert [step.parent_id for step in found][:3] == [None, 1, 2]
    finally:
        older.close()
        del connections.databases["older"]


def fill(older, texts):
    with older.cursor() as rows:
        rows.execute(
            "INSERT INTO workshop_project (id, slug, name, version, changed, own) VALUES (1, 'a', 'A', 1, '', '')"
        )
        for n, text in texts.items():
            rows.execute(
                "INSERT INTO workshop_revision (id, project_id, label, document, created, parent_id) "
                "VALUES (%s, 1, 'a step', %s, '2026-05-20 12:00:00', %s)",
                [n, text, n - 1 or None],
            )


def text_of(step):
    whole = zstandard.ZstdDecompressor().decompress(step.ground.whole)
    how = zstandard.ZstdCompressionDict(whole, dict_type=zstandard.DICT_TYPE_RAWCONTENT)
    return zstandard.ZstdDecompressor(dict_data=how).decompress(step.difference).decode()


def test_a_file_gives_back_what_was_taken_away(tmp_path, settings):
    settings.DATA = tmp_path
    with closing(sqlite3.connect(storage.database())) as file, file:
        file.execute("CREATE TABLE said (text)")
        file.executemany("INSERT INTO said VALUES (?)", [("x" * 3000,)] * 4000)
    storage.let_it_shrink()
    large = storage.database().stat().st_size
    with closing(sqlite3.connect(storage.database())) as file, file:
        file.execute("DELETE FROM said")
    storage.give_back()
    assert large > 12e6 and storage.database().stat().st_size < 1.2e6
    assert not storage.check(storage.database())


@pytest.mark.django_db
def test_what_is_over_goes_at_an_upkeep_and_one_that_fails_holds_no_other_up(tray, monkeypatch, caplog):
    from workshop import upkeep

    done = []

    def fails():
        raise storage.StorageTrouble("The disk is full.")

    def goes():
        done.append(StoredProject.objects.count())

    monkeypatch.setattr(upkeep, "_ALL", (fails, goes))
    upkeep.see_to_it()
    assert done == [14] and "fails could not be done" in caplog.text
