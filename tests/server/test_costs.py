"""The workshop's rates, and what they make of a project: told, written, compared, and shown to the operator."""

import csv
import io

import pytest

from .calls import post

TRAY = "projects/sorting-tray"


def put(client, path, **body):
    return client.put(f"/api/{path}", data=body, content_type="application/json")


def get(client, path):
    return client.get(f"/api/{path}").json()


def rows(client, path):
    return list(csv.DictReader(io.StringIO(client.get(f"/api/{path}").content.decode("utf-8-sig"))))


def test_no_rate_is_built_in_and_those_that_are_set_hold_for_all_projects(client, tray):
    bare = get(client, f"{TRAY}/costs")
    assert bare["total"] == 0 and bare["lacking"] == len(bare["lines"]) == 4
    assert all(line["total"] is None for line in bare["lines"])
    assert "cost each" not in rows(client, f"{TRAY}/cut-list.csv")[0]
    assert get(client, f"{TRAY}/variants")[0]["cost"] is None
    assert put(client, "rates", driver="piece", worth=0.5).status_code == 200
    assert put(client, "rates", driver="machine", name="Club laser", worth=36).status_code == 200
    assert put(client, "rates/money", money="shells").json()["money"] == "shells"
    assert put(client, "rates/hand-work", once=0, sheet=3, piece=0).json()["hand_work"]["sheet"] == 3
    cost = get(client, f"{TRAY}/costs")
    hours = next(line["amount"] for line in cost["lines"] if line["driver"] == "machine")
    told = sum(get(client, f"{TRAY}/prepared/{n}")["seconds"] for n in (1, 2))
    assert hours * 3600 == pytest.approx(told)
    assert cost["total"] == pytest.approx(8 * 0.5 + hours * 36) and cost["lacking"] == 3
    floor = next(part for part in cost["parts"] if part["name"] == "Floor")
    assert (
        next(row for row in rows(client, f"{TRAY}/cut-list.csv") if row["part"] == "Floor")["cost each shells"]
        == f"{floor['each']:.2f}"
    )
    assert sum(float(row["cost shells"] or 0) for row in rows(client, f"{TRAY}/costs.csv")) == pytest.approx(
        cost["total"], abs=0.01
    )
    design = get(client, f"{TRAY}/variants")[0]
    assert (design["cost"], design["money"]) == (pytest.approx(cost["total"]), "shells")
    # Another project is worked out by the same.
    copy = post(client, f"{TRAY}/duplicate", {}).json()["slug"]
    assert get(client, f"projects/{copy}/costs")["total"] == pytest.approx(cost["total"])


def test_the_operator_sees_what_a_sheet_costs(client, tray):
    put(client, "rates", driver="piece", worth=2)
    [one] = post(client, f"{TRAY}/hand-in", {"owner": "Ines", "sheets": [1], "key": "a"}).json()
    sheet = get(client, f"queue/{one['number']}")["sheet"]
    assert [line["total"] for line in sheet["costs"] if line["driver"] == "piece"] == [5 * 2]
    assert {line["driver"] for line in sheet["costs"]} == {"stock", "machine", "piece"}
    put(client, "rates/money", money="shells")
    [row] = rows(client, "desk/makers.csv")
    time = sheet["seconds"] / 60
    assert row == {
        "maker": "Ines", "sheets": "1", "cut": "0", "minutes to go": f"{time:.1f}", "late": "0",
        "cost shells": "10.00", "without a rate": "2",
    }  # fmt: skip


@pytest.mark.parametrize(
    ("body", "told"),
    [
        ({"driver": "stock", "worth": 3}, "That rate is for a stock"),
        ({"driver": "bend", "name": "Birch", "worth": 3}, "That rate is for each bend alike"),
        ({"driver": "piece", "worth": -1}, "-1"),
        ({"driver": "love", "worth": 1}, "love"),
        ({"driver": "piece", "worth": 1e9}, "at most"),
    ],
)
def test_a_rate_that_cannot_be_is_refused_in_words_and_nothing_changes(client, tray, body, told):
    put(client, "rates", driver="piece", worth=2)
    answer = put(client, "rates", **body)
    assert answer.status_code == 422 and told in answer.json()["message"]
    assert get(client, "rates")["rates"] == [{"driver": "piece", "name": "", "worth": 2}]


def test_a_project_without_a_layout_costs_nothing_yet_and_says_so(client, tray):
    slug = post(client, "projects", {"name": "Empty"}).json()["slug"]
    put(client, "rates", driver="piece", worth=2)
    cost = get(client, f"projects/{slug}/costs")
    assert (cost["lines"], cost["total"], cost["unlaid"]) == ([], 0, 0)
    assert get(client, f"projects/{slug}/variants")[0]["cost"] is None
