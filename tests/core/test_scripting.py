"""The page for those who script with the core does what it says; values set by name, and starters of one's own."""

import re

import pytest
from leannotch_core.document.sizes import Size
from leannotch_core.evaluate import evaluate
from leannotch_core.project.project import NotAProject
from leannotch_core.said import Said
from leannotch_core.scripted import evaluated, sentences, with_set
from leannotch_core.scripted.own_starter import OwnNumber, OwnStarter, begun, made_of, read_starter, write_starter
from leannotch_core.starters.made import CannotMake

from ..projects import ROOT, demo


def test_the_page_on_scripting_runs_as_it_stands(monkeypatch):
    monkeypatch.chdir(ROOT)
    names = {}
    blocks = re.findall(r"```python\n(.*?)```", (ROOT / "docs" / "scripting.md").read_text(), flags=re.S)
    assert len(blocks) == 4
    for block in blocks:
        exec(compile(block, "docs/scripting.md", "exec"), names)


def test_what_is_set_by_name_is_what_follows():
    told = evaluated(evaluate(with_set(demo(), ["tray_length=300", 'birch.readings="5.0 5.1"'])))
    assert {part["width"] for part in told["parts"]} >= {300.0}
    assert set(told) == {"parts", "ledger", "findings"}
    assert set(told["ledger"][0]) == {"opening", "insert", "gap"}
    assert with_set(demo(), ["birch.readings=5.0 5.1"]).stocks[0].readings == [Size(text="5.0"), Size(text="5.1")]
    assert "Floor (floor): 240.00 x 180.00 mm" in sentences(evaluate(demo()))


@pytest.mark.parametrize(
    ("given", "says"),
    [
        ("tray_length", "sets nothing"),
        ("tray=3", "There is no named size “tray”; there are tray_length"),
        ("whelk.readings=3", "is no stock or part of the project"),
        ("birch.colour=3", "is not in the project any more"),
    ],
)
def test_what_cannot_be_set_is_refused_with_a_sentence(given, says):
    with pytest.raises(Said, match=re.escape(says)):
        with_set(demo(), [given])


def own(**more):
    number = OwnNumber(name="tray_length", title="Length", note="as the shelf is long", least=150, most=400)
    return OwnStarter(name="Shelf tray", says="A tray for a shelf.", numbers=[number], project=demo(), **more)


def test_a_starter_of_ones_own_goes_through_its_file_and_keeps_its_limits():
    again = read_starter(write_starter(own()))
    assert again == own() and begun(again) == {"tray_length": Size(text="240")}
    made = made_of(again, {"tray_length": Size(text="12", unit="in")}, "Long tray")
    assert made.name == "Long tray" and evaluate(made).parts["floor"].width == pytest.approx(304.8)
    with pytest.raises(CannotMake, match="Length is 500 mm; it may be from 150 mm to 400 mm"):
        made_of(again, {"tray_length": Size(text="500")}, "Too long")
    with pytest.raises(CannotMake, match="Length: "):
        made_of(again, {"tray_length": Size(text="whelk")}, "No size")


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"{", "damaged"),
        (b"{}", "is no starter"),
        (b'{"format": "lean-notch starter", "version": 1}', "cannot be read"),
        (write_starter(own()).replace(b'"tray_length",\n   "title"', b'"whelk",\n   "title"'), "no named size"),
        (b"[" * 9_000_000, "MB"),
    ],
)
def test_what_is_no_starter_is_refused_with_a_sentence(data, says):
    with pytest.raises(NotAProject, match=says):
        read_starter(data)
