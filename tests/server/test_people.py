"""Makers on a list: each comes in by name and word, and finds what is theirs and what others share, by every call."""

import base64
import json
import re

import pytest
from bureau.models import Enquiry
from django.contrib.auth.models import User
from django.test import Client
from handin import gate
from people import accounts, log
from people.models import Deed
from workshop import there
from workshop.models import BroughtFile, Run, StoredProject

from ..projects import ROOT, part, project

HEAD = {"content_type": "application/json"}


class Caller(Client):
    """Somebody at a browser elsewhere, who may have come in."""

    def __init__(self, word="", name=""):
        super().__init__(REMOTE_ADDR="192.0.2.7")
        self.token = {}
        if word:
            assert self.comes_in(word, name).status_code == 200

    def comes_in(self, word, name=None):
        self.get("/")
        answer = self.ask("POST", "/api/enter", {"word": word, "name": name})
        self.token = {"X-CSRFToken": self.cookies["csrftoken"].value}
        return answer

    def ask(self, method, path, body=None):
        token = {"X-CSRFToken": self.cookies["csrftoken"].value} if "csrftoken" in self.cookies else {}
        return self.generic(method, path, json.dumps(body) if body is not None else "", **HEAD, headers=token)


@pytest.fixture
def workshop(db, settings):
    """A workshop that others reach, with two makers on its list and the operator's word."""
    settings.HOST = "testserver"
    gate.set_word("operator", "the tide is out")
    gate.set_word("maker", "gulls and whelks")
    operator = Caller("the tide is out")
    cards = operator.ask("POST", "/api/makers", {"names": ["Wren  Holm", "", "Tern"]}).json()
    return {"operator": operator, "cards": {card["name"]: card for card in cards}}


def maker(workshop, name):
    return Caller(workshop["cards"][name]["word"], name)


def begun(caller, name="Rack"):
    return caller.ask("POST", "/api/projects", {"name": name}).json()["slug"]


def names(caller):
    return sorted(row["name"] for row in caller.get("/api/projects").json())


def table(text, coding="utf-8"):
    return {"data": base64.b64encode(text.encode(coding)).decode()}


@pytest.mark.parametrize(
    ("told", "names"),
    [
        (table("Wren Holm\r\nTern\r\n"), ["Wren Holm", "Tern"]),
        (table('\ufeff"Holm, Wren";3b\n\n;3b\nTern;3a\n'), ["Holm, Wren", "Tern"]),
        (table('"Holm, ""the"" Wren",3b\nTern,3a'), ['Holm, "the" Wren', "Tern"]),
        (table("Zoë\tone\tGull;s", "cp1252"), ["Zoë"]),
        (table('"two\nlines",x'), ["two lines"]),
    ],
)
def test_names_are_read_from_a_table_and_nobody_is_on_the_list_by_that(workshop, told, names):
    answer = workshop["operator"].ask("POST", "/api/makers/read", told)
    assert answer.json() == names and User.objects.count() == 2


@pytest.mark.parametrize(
    ("told", "says"),
    [
        (table(" ,x\n,y"), "There is no name in the first column"),
        (table("x" * 200_000), "There is no name in the first column"),
        (table("\n".join(f"M {at}" for at in range(401))), "has 401 rows; a list holds 400"),
    ],
)
def test_a_table_without_names_or_with_too_many_is_refused(workshop, told, says):
    answer = workshop["operator"].ask("POST", "/api/makers/read", told)
    assert answer.status_code == 422 and says in answer.json()["message"]
    wren = maker(workshop, "Wren Holm")
    assert wren.ask("POST", "/api/makers/read", told).status_code == 403


# The list


def test_a_list_is_begun_with_cards_and_changed_by_the_operator_alone(workshop):
    cards, operator = workshop["cards"], workshop["operator"]
    assert sorted(cards) == ["Tern", "Wren Holm"]
    assert all(re.fullmatch(r"([a-z]+-){3}\d\d", card["word"]) for card in cards.values())
    assert not [row for row in User.objects.all() if cards[row.username]["word"] in row.password]
    rows = operator.get("/api/makers").json()
    assert [(row["name"], row["projects"], row["came"]) for row in rows] == [("Tern", 0, None), ("Wren Holm", 0, None)]
    wren = maker(workshop, "Wren Holm")
    for method, path in (("GET", "makers"), ("POST", "makers"), ("POST", "makers/1/word"), ("DELETE", "makers/1")):
        assert wren.ask(method, f"/api/{path}", {"names": ["Gull"]}).status_code == 403, path


@pytest.mark.parametrize(
    ("more", "says"),
    [
        (["wren holm"], "There is a wren holm already"),
        (["Gull", "GULL"], "There is a GULL already"),
        (["The  Workshop"], "“The Workshop” is somebody else here"),
        (["", "  "], "Type at least one name"),
        (["x" * 61], "has 61 letters; a name has at most 60"),
        ([f"M {at}" for at in range(accounts.MOST)], "402 makers are more than the 400 that a list holds"),
    ],
)
def test_names_that_cannot_be_told_apart_or_are_none_are_refused_and_nobody_is_added(workshop, more, says):
    answer = workshop["operator"].ask("POST", "/api/makers", {"names": more})
    assert answer.status_code == 422 and says in answer.json()["message"] and User.objects.count() == 2


def test_a_maker_comes_in_by_name_and_word_and_the_shared_word_is_good_no_more(workshop):
    card = workshop["cards"]["Wren Holm"]
    come = Caller().comes_in(card["word"].upper() + " ", " wren holm")
    assert come.status_code == 200 and (come.json()["role"], come.json()["name"]) == ("maker", "Wren Holm")
    for word, name, says in (
        ("gulls and whelks", None, "type the name that is on your card"),
        (card["word"], "Tern", "do not belong together"),
        (card["word"], "Nobody", "do not belong together"),
        ("the tide is out", "Wren Holm", "do not belong together"),
        (card["word"], None, "lets nobody in"),
    ):
        answer = Caller().comes_in(word, name)
        assert answer.status_code == 403 and says in answer.json()["message"], (word, name)
    # What anybody is told before: that a name is asked for.
    assert Caller().get("/api/role").json() == {"role": "", "elsewhere": "testserver", "by_name": True, "name": ""}


def test_a_name_is_the_same_however_it_is_capitalised_in_any_alphabet(workshop):
    [card] = workshop["operator"].ask("POST", "/api/makers", {"names": ["Åsa Ørn"]}).json()
    assert Caller().comes_in(card["word"], "åsa  ØRN").json()["name"] == "Åsa Ørn"
    assert workshop["operator"].ask("POST", "/api/makers", {"names": ["ÅSA ørn"]}).status_code == 422


def test_without_a_list_the_two_words_hold_as_before(workshop):
    shared = Caller
    for row in workshop["operator"].get("/api/makers").json():
        assert workshop["operator"].ask("DELETE", f"/api/makers/{row['number']}").status_code == 204
    caller = shared("gulls and whelks")
    slug = begun(caller)
    assert shared("gulls and whelks").get(f"/api/projects/{slug}").status_code == 200
    # Once there is a list again, who came in by the shared word is asked for a name.
    workshop["operator"].ask("POST", "/api/makers", {"names": ["Gull"]})
    assert caller.get("/api/projects").status_code == 401


def test_with_another_word_or_off_the_list_a_maker_is_out_at_once(workshop):
    operator, card = workshop["operator"], workshop["cards"]["Wren Holm"]
    wren, tern = maker(workshop, "Wren Holm"), maker(workshop, "Tern")
    slug = begun(wren)
    fresh = operator.ask("POST", f"/api/makers/{card['number']}/word").json()
    assert fresh["word"] != card["word"] and wren.get("/api/projects").status_code == 401
    assert Caller().comes_in(card["word"], "Wren Holm").status_code == 403
    assert names(Caller(fresh["word"], "Wren Holm")) == ["Rack"]
    assert operator.ask("DELETE", f"/api/makers/{card['number']}").status_code == 204
    assert Caller().comes_in(fresh["word"], "Wren Holm").status_code == 403
    # Their projects are the workshop's then, and nobody else's.
    assert StoredProject.objects.get(slug=slug).owner is None and tern.get(f"/api/projects/{slug}").status_code == 404
    assert operator.get(f"/api/projects/{slug}").status_code == 200
    assert operator.ask("POST", f"/api/makers/{card['number']}/word").status_code == 404


def test_leaving_a_shared_tablet_ends_it_there(workshop):
    wren = maker(workshop, "Wren Holm")
    assert wren.ask("POST", "/api/leave", {}).json()["role"] == "" and wren.get("/api/projects").status_code == 401


# Whose is what

PATHS = [
    (method.upper(), path)
    for path, ways in json.loads((ROOT / "web" / "openapi.json").read_text())["paths"].items()
    for method in ways
]
#: What leads to something of somebody's.
THEIRS = [
    (method, path)
    for method, path in PATHS
    if re.match(r"/api/(projects/\{|brought/|runs/|deleted/\{|service/files/\{)", path)
]


@pytest.fixture
def owned(workshop):
    """One of each thing that belongs to Wren."""
    wren = maker(workshop, "Wren Holm")
    slug = begun(wren)
    row = StoredProject.objects.get(slug=slug)
    brought = BroughtFile.objects.create(project=row, name="x.svg", data=b"x")
    run = Run.objects.create(project=row, kind="prove", version=1)
    sent = Enquiry.objects.create(name="x.svg", data=b"x", seen="[]", owner=row.owner)
    numbers = {"file_id": brought.pk, "run_id": run.pk, "slug": slug}
    return {"slug": slug, "wren": wren, "row": row, "numbers": numbers, "sent": sent.pk}


def path_of(path, owned):
    known = {**owned["numbers"], **({"number": owned["sent"]} if "/service/files/" in path else {})}
    return re.sub(r"\{(\w+)\}", lambda found: str(known.get(found[1], 1)), path)


def test_no_call_reaches_what_another_maker_keeps_to_themselves(workshop, owned):
    tern, reached = maker(workshop, "Tern"), []
    for method, path in THEIRS:
        answer = tern.ask(method, path_of(path, owned), {})
        operators = re.search(r"/(owner|hands)$", path)
        if answer.status_code != (403 if operators else 404) or not (
            operators or b"no such thing here" in answer.content
        ):
            reached.append((method, path, answer.status_code))
    assert reached == [] and len(THEIRS) > 80
    row = StoredProject.objects.get(slug=owned["slug"])
    assert (row.version, row.deleted, row.owner_id) == (1, None, owned["row"].owner_id)


#: Ways to write a number that whoever reads numbers leniently takes for the same one.
DISGUISES = ["%0A{}", "{}%0A", "%20{}", "+{}", "0{}", "{}.0", "%EF%BC%91", "%09{}", "%0B{}", "{}%C2%A0"]


def test_no_disguise_of_a_path_reaches_what_is_anothers(workshop, owned):
    """A door that reads a path otherwise than the call behind it is none."""
    tern, slug = maker(workshop, "Tern"), owned["slug"]
    file = project([part("plate", 60, 40)], name="Rack").model_dump_json()
    laid = owned["wren"].generic("POST", "/api/projects/open", file, **HEAD, headers=owned["wren"].token).json()["slug"]
    owned["wren"].ask("POST", f"/api/projects/{laid}/nest", {"seconds": 1})
    reached = []
    numbers = owned["numbers"]
    for disguise in DISGUISES:
        tried = [
            ("GET", f"/api/brought/{disguise.format(numbers['file_id'])}"),
            ("GET", f"/api/brought/{disguise.format(numbers['file_id'])}/state"),
            ("GET", f"/api/runs/{disguise.format(numbers['run_id'])}"),
            ("GET", f"/api/service/files/{disguise.format(owned['sent'])}"),
            ("DELETE", f"/api/service/files/{disguise.format(owned['sent'])}"),
            ("GET", f"/api/projects/{laid}/prepared/{disguise.format(1)}"),
            ("GET", f"/api/projects/{laid}/plans/{disguise.format(1)}"),
            ("GET", f"/api/projects/{laid}/sheets/{disguise.format(1)}.svg"),
            ("GET", f"/api/projects/{laid}/parts/plate%0A/folded"),
            ("GET", f"/api/projects/{slug}%0A"),
            ("GET", f"/api/projects/%0A{slug}/file"),
            ("GET", f"/api/projects/./{slug}/file"),
            ("GET", f"/api//projects/{slug}"),
            ("GET", f"/api/projects/open/../{slug}"),
            ("POST", f"/api/deleted/{slug}%0A/restore"),
        ]
        reached += [
            (method, path) for method, path in tried if tern.ask(method, path).status_code not in (403, 404, 405)
        ]
    kept = [tern.ask("DELETE", f"/api/own-starters/{disguise.format(1)}").status_code for disguise in DISGUISES]
    assert reached == [] and set(kept) == {403}
    # A project that is called as one of the calls is a project like any other.
    assert begun(owned["wren"], "Open") == "open" and begun(tern, "Mine") == "mine"
    assert [tern.get(f"/api/projects/open{rest}").status_code for rest in ("", "/file", "/findings")] == [404] * 3
    assert tern.ask("DELETE", "/api/projects/open").status_code == 404
    # The maker herself is answered.
    assert owned["wren"].get(f"/api/projects/{laid}/prepared/1").status_code == 200


def test_what_another_shares_is_reached_as_far_as_they_do(workshop, owned):
    tern, slug, wren = maker(workshop, "Tern"), owned["slug"], owned["wren"]
    edit = {"version": 1, "command": {"do": "rename project", "name": "Taken"}}
    #: Whether each is answered where nothing is shared, where it is to look at, to copy, and to work on.
    calls = {
        ("GET", ""): (False, True, True, True),
        ("GET", "/findings"): (False, True, True, True),
        ("POST", "/fit"): (False, True, True, True),
        ("GET", "/file"): (False, False, True, True),
        ("POST", "/duplicate"): (False, False, True, True),
        ("POST", "/edit"): (False, False, False, True),
        ("POST", "/undo"): (False, False, False, True),
        ("PUT", "/shared"): (False, False, False, False),
        ("DELETE", ""): (False, False, False, False),
    }
    for at, shared in enumerate(("nobody", "look", "copy", "work")):
        assert wren.ask("PUT", f"/api/projects/{slug}/shared", {"shared": shared}).json()["shared"] == shared
        assert (names(tern) == []) == (at == 0) or shared in ("copy", "work")
        for (method, rest), answered in calls.items():
            body = edit if rest == "/edit" else {"version": 99} if rest == "/undo" else {"shared": "work"}
            status = tern.ask(method, f"/api/projects/{slug}{rest}", body).status_code
            assert (status not in (403, 404)) == answered[at], (shared, method, rest, status)
    # Nobody else gives it away, not even with leave to work on it.
    assert StoredProject.objects.get(slug=slug).shared == "work"
    message = tern.ask("DELETE", f"/api/projects/{slug}").json()["message"]
    assert "belongs to Wren Holm, and is shared to work on" in message


def test_a_design_that_is_handed_out_is_seen_in_every_hand(workshop):
    operator = workshop["operator"]
    slug = begun(operator, "Tide gauge")
    assert names(maker(workshop, "Tern")) == []
    operator.ask("PUT", f"/api/projects/{slug}/shared", {"shared": "copy"})
    taken = {}
    for name in ("Tern", "Wren Holm"):
        caller = maker(workshop, name)
        [row] = caller.get("/api/projects").json()
        assert (row["owner"], row["own"], row["shared"]) == ("", False, "copy")
        assert caller.ask("POST", f"/api/projects/{slug}/edit", {}).status_code == 403
        taken[name] = caller.ask("POST", f"/api/projects/{slug}/duplicate", {}).json()["slug"]
        # It keeps its name, and is theirs.
        assert [
            (r["name"], r["own"], r["owner"]) for r in caller.get("/api/projects").json() if r["slug"] == taken[name]
        ] == [("Tide gauge", True, name)]
        assert caller.get(f"/api/projects/{slug}/hands").status_code == 403
    rows = operator.get(f"/api/projects/{slug}/hands").json()
    assert [(row["owner"], row["slug"]) for row in rows] == sorted(taken.items())
    # A maker's copy of an own project is just another one of theirs.
    wren = maker(workshop, "Wren Holm")
    again = wren.ask("POST", f"/api/projects/{taken['Wren Holm']}/duplicate", {}).json()
    assert (
        again["document"]["name"] == "Tide gauge copy"
        and StoredProject.objects.get(slug=again["slug"]).begun_from is None
    )


def test_the_operator_sees_all_and_gives_projects_to_makers(workshop, owned):
    operator, tern, number = workshop["operator"], maker(workshop, "Tern"), workshop["cards"]["Tern"]["number"]
    assert [(row["owner"], row["own"]) for row in operator.get("/api/projects").json()] == [("Wren Holm", True)]
    assert operator.ask("PUT", f"/api/projects/{owned['slug']}/owner", {"maker": number}).json()["owner"] == "Tern"
    assert names(tern) == ["Rack"] and names(owned["wren"]) == []
    assert operator.ask("PUT", f"/api/projects/{owned['slug']}/owner", {"maker": 9999}).status_code == 422
    assert operator.ask("PUT", f"/api/projects/{owned['slug']}/owner", {"maker": None}).json()["owner"] == ""
    assert names(tern) == []


def test_deleted_projects_files_at_the_service_and_hand_ins_are_each_ones_own(workshop, owned):
    wren, tern, slug = owned["wren"], maker(workshop, "Tern"), owned["slug"]
    assert [row["id"] for row in wren.get("/api/service/files").json()] == [owned["sent"]]
    assert tern.get("/api/service/files").json() == [] and tern.get("/api/service/orders").json()["orders"] == []
    wren.ask("DELETE", f"/api/projects/{slug}")
    assert [row["slug"] for row in wren.get("/api/deleted").json()] == [slug] and tern.get("/api/deleted").json() == []
    assert tern.ask("POST", f"/api/deleted/{slug}/restore").status_code == 404
    assert wren.ask("POST", f"/api/deleted/{slug}/restore").status_code == 204
    # What is kept for everybody is thrown away by the operator alone.
    assert (
        tern.ask("DELETE", "/api/own-starters/1").status_code == tern.ask("DELETE", "/api/shelf/1").status_code == 403
    )
    assert workshop["operator"].ask("DELETE", "/api/own-starters/1").status_code == 204


def test_variants_of_a_shared_design_are_seen_by_their_makers(workshop, owned):
    wren, tern, slug = owned["wren"], maker(workshop, "Tern"), owned["slug"]
    wren.ask("POST", f"/api/projects/{slug}/variants", {"name": "Thick"})
    wren.ask("PUT", f"/api/projects/{slug}/shared", {"shared": "work"})
    made = tern.ask("POST", f"/api/projects/{slug}/variants", {"name": "Thin"}).json()["slug"]
    assert [row["name"] for row in tern.get(f"/api/projects/{slug}/variants").json()] == ["Rack", "Thin"]
    wren.ask("PUT", f"/api/projects/{slug}/shared", {"shared": "nobody"})
    assert [row["name"] for row in tern.get(f"/api/projects/{made}/variants").json()] == ["Thin"]
    assert [row["name"] for row in wren.get(f"/api/projects/{slug}/variants").json()] == ["Rack", "Thick"]


def test_the_word_of_all_makers_shuts_nobody_out_who_came_in_by_name(workshop):
    wren = maker(workshop, "Wren Holm")
    held = [key for key, role in gate.LET_IN.items() if role.startswith("maker ")]
    workshop["operator"].ask("POST", "/api/words", {"role": "maker", "word": "limpets at low tide"})
    assert set(held) <= set(gate.LET_IN) and wren.get("/api/projects").status_code == 200
    workshop["operator"].ask("POST", f"/api/makers/{workshop['cards']['Wren Holm']['number']}/word")
    assert not [role for role in gate.LET_IN.values() if role == f"maker {workshop['cards']['Wren Holm']['number']}"]


def test_a_project_of_a_variant_and_one_from_a_file_are_the_makers_who_made_them(workshop, owned):
    wren = owned["wren"]
    made = wren.ask("POST", f"/api/projects/{owned['slug']}/variants", {"name": "Thick"}).json()["slug"]
    file = project([part("plate", 60, 40)]).model_dump_json()
    opened = wren.generic("POST", "/api/projects/open", file, **HEAD, headers=wren.token).json()["slug"]
    owners = {one.slug: one.owner_id for one in StoredProject.objects.filter(slug__in=(made, opened))}
    assert owners == dict.fromkeys((made, opened), owned["row"].owner_id)


def test_who_else_is_in_a_project_is_known_for_as_long_as_they_say_so(workshop, owned, monkeypatch):
    wren, tern, slug = owned["wren"], maker(workshop, "Tern"), owned["slug"]

    def says(caller, window, station="Join"):
        body = {"window": window, "station": station}
        return caller.ask("POST", f"/api/projects/{slug}/there", body)

    assert says(wren, "window one").json() == {"version": 1, "others": [], "together": False}
    assert says(tern, "window two").status_code == 404
    wren.ask("PUT", f"/api/projects/{slug}/shared", {"shared": "look"})
    # One who looks is seen too, and so is what the other does meanwhile.
    assert says(tern, "window two", "Shape").json()["others"] == [{"name": "Wren Holm", "station": "Join"}]
    wren.ask("POST", f"/api/projects/{slug}/edit", {"version": 1, "command": {"do": "rename project", "name": "Mast"}})
    told = says(tern, "window two", "Shape").json()
    assert (told["version"], told["together"]) == (2, False)
    operator = says(workshop["operator"], "window three").json()["others"]
    assert [(one["name"], one["station"]) for one in operator] == [("Tern", "Shape"), ("Wren Holm", "Join")]
    # A second window of one's own is somebody else's to nobody but itself.
    assert [one["name"] for one in says(wren, "window four").json()["others"]] == ["Tern", "Wren Holm", "the operator"]
    now = there.time.monotonic()
    monkeypatch.setattr(there.time, "monotonic", lambda: now + there.KEPT + 1)
    wren.ask("PUT", f"/api/projects/{slug}/shared", {"shared": "work"})
    assert says(wren, "window one").json() == {"version": 2, "others": [], "together": True}


def test_the_operator_sees_who_did_what_and_when(workshop, owned):
    wren, slug = owned["wren"], owned["slug"]
    wren.ask("POST", f"/api/projects/{slug}/edit", {"version": 1, "command": {"do": "rename project", "name": "Mast"}})
    workshop["operator"].ask(
        "POST", f"/api/projects/{slug}/edit", {"version": 2, "command": {"do": "rename project", "name": "Boom"}}
    )
    rows = [row for row in done(workshop) if row["kind"] == "step"]
    assert [(row["who"], row["to"], row["slug"]) for row in rows] == [
        ("", "Boom", slug), ("Wren Holm", "Boom", slug), ("Wren Holm", "Boom", slug),
    ]  # fmt: skip
    assert "Boom" in rows[0]["more"] and "Mast" in rows[1]["more"] and rows[2]["more"] == "Begun"
    assert wren.get("/api/desk/done").status_code == 403
    # What is worked out for a maker in another process is theirs as well.
    file = project([part("plate", 60, 40)]).model_dump_json()
    opened = wren.generic("POST", "/api/projects/open", file, **HEAD, headers=wren.token).json()["slug"]
    assert wren.ask("POST", f"/api/projects/{opened}/nest", {"seconds": 1}).status_code in (200, 201, 202)
    [first, *_] = done(workshop)
    assert (first["who"], first["slug"], first["more"]) == ("Wren Holm", opened, "Laid out")
    # Whoever is taken off the list, what they did is still there.
    workshop["operator"].ask("DELETE", f"/api/makers/{workshop['cards']['Wren Holm']['number']}")
    rows = done(workshop)
    assert {row["who"] for row in rows if row["kind"] == "step"} == {""}
    assert [(row["kind"], row["to"]) for row in rows[:1]] == [("taken off", "Wren Holm")]
    assert [row["who"] for row in rows if row["kind"] == "came in"] == ["Wren Holm", ""]


def done(workshop):
    rows = workshop["operator"].get("/api/desk/done").json()
    assert [row["when"] for row in rows] == sorted((row["when"] for row in rows), reverse=True)
    return rows


def test_what_concerns_people_and_things_is_on_the_log_too(workshop, owned):
    operator, wren, slug = workshop["operator"], owned["wren"], owned["slug"]
    tern, numbers = workshop["cards"]["Tern"], owned["numbers"]
    wren.ask("PUT", f"/api/projects/{slug}/shared", {"shared": "copy"})
    operator.ask("PUT", f"/api/projects/{slug}/owner", {"maker": tern["number"]})
    operator.ask("PUT", f"/api/projects/{slug}/owner", {"maker": None})
    operator.ask("DELETE", f"/api/brought/{numbers['file_id']}")
    operator.ask("POST", f"/api/brought/{numbers['file_id']}/restore")
    operator.ask("DELETE", f"/api/projects/{slug}")
    operator.ask("POST", f"/api/deleted/{slug}/restore")
    operator.ask("POST", f"/api/makers/{tern['number']}/word")
    operator.ask("POST", "/api/words", {"role": "maker", "word": "whelks and gulls"})
    operator.ask("PUT", "/api/rates/money", {"money": "shells"})
    wren.ask("POST", "/api/leave")
    assert Caller().comes_in("no such word", "a-word-in-the-wrong-field-12").status_code == 403
    assert Caller().comes_in("no such word", "tern").status_code == 403
    assert [(row["who"], row["kind"], row["to"], row["more"]) for row in done(workshop)[:13]] == [
        ("", "wrong word", "Tern", "192.0.2.7"),
        ("", "wrong word", "", "192.0.2.7"),
        ("Wren Holm", "left", "", ""),
        ("", "rates set", "", ""),
        ("", "word set", "maker", ""),
        ("", "new word", "Tern", ""),
        ("", "project had back", "Rack", ""),
        ("", "project deleted", "Rack", ""),
        ("", "file had back", "x.svg", "Rack"),
        ("", "file deleted", "x.svg", "Rack"),
        ("", "given", "Rack", ""),
        ("", "given", "Rack", "Tern"),
        ("Wren Holm", "shared", "Rack", "copy"),
    ]


def test_the_log_keeps_the_latest(db, monkeypatch):
    monkeypatch.setattr(log, "KEPT", 3)
    for number in range(5):
        log.note("rates set", to=str(number))
    assert log.forget_the_oldest() == 2 and log.forget_the_oldest() == 0
    assert [deed.to for deed in Deed.objects.order_by("pk")] == ["2", "3", "4"]


def test_on_this_machine_all_is_the_operators(db, client):
    accounts.put_on_the_list(["Wren"])
    slug = client.post("/api/projects", json.dumps({"name": "Rack"}), **HEAD).json()["slug"]
    [row] = client.get("/api/projects").json()
    assert (row["slug"], row["owner"], row["own"], row["shared"]) == (slug, "", True, "nobody")
