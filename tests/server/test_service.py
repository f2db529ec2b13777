"""The cutting service by its calls, and the project's side of it."""

import base64
import json
from datetime import timedelta

import pytest
from bureau.desk import take_away_what_is_over
from bureau.models import Enquiry, Order
from django.utils import timezone

from ..hostile.files import dxf

HEAD = {"content_type": "application/json"}
REST = "tide-gauge-rest"


def post(client, path, status=200, **body):
    answer = client.post(f"/api/{path}", json.dumps(body), **HEAD)
    assert answer.status_code == status, answer.content[:400]
    return answer.json()


def sent(client, data, name="plate.dxf", status=201):
    return post(client, "service/files", status, name=name, data=base64.b64encode(data).decode())


def plate(document):
    space = document.modelspace()
    space.add_lwpolyline([(0, 0), (100, 0), (100, 60), (0, 60)], close=True)
    space.add_line((0, 30), (100, 30), dxfattribs={"layer": "bend-up"})


def wanted(client, enquiry, **changes):
    body = {"version": enquiry["version"], "wanted": {**enquiry["wanted"], **changes}}
    return post(client, f"service/files/{enquiry['id']}/wanted", **body)


def test_an_order_from_the_file_to_the_doorstep(client, db):
    enquiry = sent(client, dxf(plate))
    assert enquiry["quote"] is None and {rule["code"] for rule in enquiry["rules"]} == {
        "size-not-confirmed",
        "no-stock",
    }
    said = post(client, f"service/files/{enquiry['id']}/order", 422, version=enquiry["version"])["message"]
    assert said.startswith("It cannot be ordered as it is.")
    enquiry = wanted(client, enquiry, stock="aluminium", thickness=2.2, size_is_right=True)
    assert not enquiry["rules"]
    assert enquiry["quote"]["total"] == pytest.approx(
        sum(line["total"] for line in enquiry["quote"]["lines"]), abs=0.02
    )
    order = post(client, f"service/files/{enquiry['id']}/order", 201, version=enquiry["version"])
    states = [order["progress"]["state"]]
    for _ in range(enquiry["quote"]["days"]):
        states.append(post(client, "service/next-day")["orders"][0]["progress"]["state"])
    assert (states[0], states[-1]) == ("received", "delivered") and "being bent" in states


def test_what_is_chosen_in_two_windows_is_told(client, db):
    enquiry = sent(client, dxf(plate))
    wanted(client, enquiry, sets=3)
    body = {"version": enquiry["version"], "wanted": enquiry["wanted"]}
    said = post(client, f"service/files/{enquiry['id']}/wanted", 409, **body)["message"]
    assert "in another window" in said


def test_what_is_not_in_the_catalogue_is_refused_with_what_is(client, db):
    enquiry = sent(client, dxf(plate))
    body = {"version": enquiry["version"], "wanted": {**enquiry["wanted"], "stock": "aluminium", "thickness": 2}}
    assert "there in 1.5, 2.2, 3.1 mm" in post(client, f"service/files/{enquiry['id']}/wanted", 422, **body)["message"]
    body["wanted"]["stock"] = "driftwood"
    assert "no material" in post(client, f"service/files/{enquiry['id']}/wanted", 422, **body)["message"]


def test_a_file_that_cannot_be_read_is_refused_and_not_kept(client, db):
    for data in (b"PK\x03\x04", b"whelk", b"<svg xmlns='http://www.w3.org/2000/svg'></svg>"):
        assert sent(client, data, status=422)["message"]
    assert not Enquiry.objects.exists()


def test_its_calls_have_a_schema_of_their_own(client, db):
    schema = client.get("/api/service/openapi.json").json()
    assert schema["openapi"].startswith("3.") and all(path.startswith("/api/service/") for path in schema["paths"])
    assert "/api/service/files/{number}/order" in schema["paths"]
    # It knows nothing of projects.
    assert "EnquiryShown" in schema["components"]["schemas"]
    assert "ProjectShown" not in schema["components"]["schemas"]


def test_the_project_is_held_against_it_made_for_it_and_sent(client, tray):
    chosen = {"stock": "aluminium", "offered": "aluminium", "thickness": 2.2}
    rows = {row["what"]: row for row in post(client, f"projects/{REST}/service/against", **chosen)["rows"]}
    assert (rows["thickness"]["ours"], rows["thickness"]["theirs"], rows["thickness"]["fits"]) == (
        "1.99 mm",
        "2.20 mm",
        False,
    )
    variant = post(client, f"projects/{REST}/service/variant", 201, **chosen)
    assert variant["variant_of"] == REST and variant["stocks"]["aluminium"]["thickness"] == 2.2
    # What was typed stays; the flat sheet follows.
    design = client.get(f"/api/projects/{REST}").json()
    legs = [[bend["far"] for bend in shown["parts"][0]["bends"]] for shown in (design, variant)]
    assert legs[0] == pytest.approx(legs[1])
    assert design["parts"][0]["bounds"]["top"] != pytest.approx(variant["parts"][0]["bounds"]["top"], abs=0.05)
    enquiry = post(client, f"projects/{REST}/service/send?sheet=1", 201)
    found = client.get(f"/api/service/files/{enquiry['number']}").json()
    assert [(part["width"], len(part["bends"])) for part in found["parts"]] == [(pytest.approx(40), 3)]
    found = wanted(client, found, stock="aluminium", thickness=2.2, size_is_right=True)
    post(client, f"service/files/{found['id']}/order", 201, version=found["version"])
    [row] = client.get(f"/api/projects/{REST}/service/sent").json()
    assert (row["state"], row["price"], row["version"]) == ("received", found["quote"]["total"], 1)


def test_a_file_that_was_not_ordered_is_deleted_had_back_and_gone_after_thirty_days(client, db):
    path = f"/api/service/files/{sent(client, dxf(plate))['id']}"
    other = sent(client, dxf(plate))["id"]
    gone = client.delete(path).json()
    listed = [(one["id"], bool(one["until"])) for one in client.get("/api/service/files").json()]
    assert listed == [(other, False), (gone["id"], True)]
    refused = post(client, f"service/files/{gone['id']}/order", 422, version=gone["version"])
    assert gone["until"] and refused["message"] == "plate.dxf was deleted. Have it back, and then order it."
    assert client.post(f"{path}/restore").json()["until"] is None
    client.delete(path)
    for days, status in ((29, 200), (31, 404)):
        Enquiry.objects.update(deleted=timezone.now() - timedelta(days=days))
        take_away_what_is_over()
        assert client.get(path).status_code == status


def test_a_file_that_was_ordered_stays_with_its_order(client, db):
    enquiry = wanted(client, sent(client, dxf(plate)), stock="aluminium", thickness=2.2, size_is_right=True)
    post(client, f"service/files/{enquiry['id']}/order", 201, version=enquiry["version"])
    assert client.get("/api/service/files").json() == []
    refused = client.delete(f"/api/service/files/{enquiry['id']}")
    assert refused.status_code == 422
    assert refused.json()["message"] == f"plate.dxf was ordered; it is kept with {Order.objects.get()}."
