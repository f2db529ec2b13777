"""What makers propose for the library, and what is told of a stock that was measured anew."""

import json

import pytest
from leannotch_core.document.sizes import Size
from workshop import library
from workshop.models import Proposed

from .test_people import Caller, begun, done, maker, workshop  # noqa: F401 - a fixture


@pytest.fixture
def birch(workshop):  # noqa: F811
    """The stock of the library, and a project of Wren's that has taken it."""
    wren = maker(workshop, "Wren Holm")
    told = wren.get("/api/library").json()
    assert told == []
    slug = begun(wren)
    wren.ask("POST", f"/api/projects/{slug}/edit", {"version": 1, "command": {"do": "begin stock", "id": "birch"}})
    return wren, slug


def stock_of(caller, slug):
    return caller.get(f"/api/projects/{slug}").json()["document"]["stocks"][0]


def read(stock, *readings):
    return {**stock, "readings": [{"text": text, "unit": "mm"} for text in readings]}


def notes(caller, slug):
    return [
        one for one in caller.get(f"/api/projects/{slug}/findings").json()["findings"] if one["code"] == "measured-anew"
    ]


def put(caller, slug, stock):
    version = caller.get(f"/api/projects/{slug}").json()["version"]
    answer = caller.ask(
        "POST", f"/api/projects/{slug}/edit", {"version": version, "command": {"do": "put stock", "stock": stock}}
    )
    assert answer.status_code == 200, answer.content


def test_a_makers_stock_waits_until_the_operator_takes_it(workshop, birch):  # noqa: F811
    (wren, slug), operator = birch, workshop["operator"]
    stock = read(stock_of(wren, slug), "3.1", "3.12")
    assert wren.ask("POST", "/api/library", stock).json() == {"kept": False}
    # Proposed again it is the newer one that waits, once.
    assert wren.ask("POST", "/api/library", read(stock, "3.2")).json() == {"kept": False}
    assert wren.get("/api/library").json() == []
    [row] = operator.get("/api/desk/proposed").json()
    assert (row["who"], row["kind"], row["name"], row["changes"]) == ("Wren Holm", "stock", stock["name"], None)
    for method, path in (("GET", ""), ("POST", f"/{row['number']}/take"), ("DELETE", f"/{row['number']}")):
        assert wren.ask(method, f"/api/desk/proposed{path}").status_code == 403
    assert operator.ask("POST", f"/api/desk/proposed/{row['number']}/take").json() == []
    [kept] = wren.get("/api/library").json()
    assert [one["text"] for one in kept["readings"]] == ["3.2"]
    # What waits next says what it would change; turned down it changes nothing.
    wren.ask("POST", "/api/library", {**read(stock, "3.25"), "material": "MDF"})
    [row] = operator.get("/api/desk/proposed").json()
    assert row["changes"][0] == "thickness 3.2 mm becomes 3.25 mm" and "material: plywood, now MDF" in row["changes"]
    assert operator.ask("DELETE", f"/api/desk/proposed/{row['number']}").json() == []
    assert wren.get("/api/library").json() == [kept]
    assert operator.ask("DELETE", f"/api/desk/proposed/{row['number']}").status_code == 404
    deeds = [(row["who"], row["kind"], row["to"]) for row in done(workshop) if row["kind"] != "step"][:5]
    name = stock["name"]
    assert deeds == [
        ("", "turned down", name), ("Wren Holm", "proposed", name), ("", "kept for all", name),
        ("Wren Holm", "proposed", name), ("Wren Holm", "proposed", name),
    ]  # fmt: skip


def test_the_operators_own_is_kept_at_once_and_those_without_a_name_keep_nothing(workshop, birch):  # noqa: F811
    wren, slug = birch
    stock = stock_of(wren, slug)
    assert workshop["operator"].ask("POST", "/api/library", stock).json() == {"kept": True}
    for number in workshop["cards"].values():
        workshop["operator"].ask("DELETE", f"/api/makers/{number['number']}")
    assert not Proposed.objects.exists()
    nobody = Caller("gulls and whelks")
    for kind in ("library", "machines", "cutters"):
        assert nobody.ask("POST", f"/api/{kind}", {}).status_code == 403


def test_what_a_coupon_taught_a_maker_is_proposed_too(workshop, birch):  # noqa: F811
    wren, slug = birch
    put(wren, slug, read(stock_of(wren, slug), "3.1"))
    felt = [{"clearance": 0.1, "feel": "firm"}, {"clearance": 0.0, "feel": "stiff"}]
    result = {
        "do": "record coupon",
        "stock": "birch",
        "date": "2026-05-04",
        "felt": felt,
        "kerf": {"how": "typed", "width": {"text": "0.19"}},
    }
    version = wren.get(f"/api/projects/{slug}").json()["version"]
    answer = wren.ask("POST", f"/api/projects/{slug}/edit", {"version": version, "command": result})
    assert answer.status_code == 200, answer.content
    assert wren.get("/api/library").json() == [] and Proposed.objects.count() == 1


def test_a_stock_that_was_measured_anew_is_told_to_projects_that_took_it_as_it_was(workshop, birch):  # noqa: F811
    (wren, slug), operator = birch, workshop["operator"]
    put(wren, slug, read(stock_of(wren, slug), "3.1"))
    stock = stock_of(wren, slug)
    operator.ask("POST", "/api/library", stock)
    # Kept as it was, or with what is not measured, it says nothing.
    operator.ask("POST", "/api/library", {**stock, "material": "MDF"})
    assert notes(wren, slug) == []
    operator.ask("POST", "/api/library", read(stock, "3.3"))
    [note] = notes(wren, slug)
    assert "thickness 3.1 mm becomes 3.3 mm; this project cuts 0 parts from it" in note["text"]
    [mend] = note["mends"]
    # Whoever has measured their own sheet has another one.
    put(wren, slug, read(stock, "3.15"))
    assert notes(wren, slug) == []
    put(wren, slug, stock)
    version = wren.get(f"/api/projects/{slug}").json()["version"]
    wren.ask("POST", f"/api/projects/{slug}/edit", {"version": version, "command": mend["command"]})
    assert notes(wren, slug) == [] and [one["text"] for one in stock_of(wren, slug)["readings"]] == ["3.3"]


def test_what_an_older_version_kept_otherwise_keeps_nothing_from_being_looked_at(workshop, birch):  # noqa: F811
    (wren, slug), operator = birch, workshop["operator"]
    stock = read(stock_of(wren, slug), "3.1")
    operator.ask("POST", "/api/library", stock)
    library.LibraryStock.objects.update(earlier='[{"stock": 1}, 3]', since="2026-01-01T00:00:00Z")
    assert notes(wren, slug) == []
    wren.ask("POST", "/api/library", stock)
    Proposed.objects.update(document="{}")
    assert operator.get("/api/desk/proposed").json() == []
    assert operator.ask("POST", f"/api/desk/proposed/{Proposed.objects.get().pk}/take").status_code == 404


def test_of_many_states_the_latest_are_known(db):
    from leannotch_core.document.stock import Stock

    birch = Stock.begun("birch", "Birch")
    for number in range(12):
        library.keep(birch.model_copy(update={"readings": [Size(text=f"{3 + number / 10}")]}))
    [row] = library.LibraryStock.objects.all()
    assert [one["readings"][0]["text"] for one in json.loads(row.earlier)] == [f"{3 + n / 10}" for n in range(3, 11)]
