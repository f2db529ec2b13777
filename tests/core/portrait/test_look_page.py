"""A page to look at: the thing from all sides, its parts, sheets and cut list, and nothing that it needs from afar."""

import re
from html.parser import HTMLParser

import pytest
from leannotch_core.assembly.inside import put_inside
from leannotch_core.assembly.poses import assemble
from leannotch_core.evaluate import evaluate
from leannotch_core.portrait import turned as turned_pictures
from leannotch_core.portrait.drawn import portrait
from leannotch_core.portrait.look_page import look_page
from leannotch_core.portrait.turned import SIDES, turned

from ...projects import part, project
from ...shipped import projects


def whole(document):
    result = evaluate(document)
    return document, result, put_inside(result, assemble(document, result))


class Read(HTMLParser):
    """What a page has: elements with what they say, and whether each that was opened is closed."""

    def __init__(self, html):
        super().__init__()
        self.tags, self.open, self.words, self.styled = [], [], [], {}
        self.feed(html)

    def handle_starttag(self, tag, attrs):
        self.tags.append((tag, dict(attrs)))
        if tag not in ("meta", "br", "input", "path", "rect"):
            self.open.append(tag)

    def handle_endtag(self, tag):
        if tag not in ("path", "rect"):
            assert self.open.pop() == tag

    def handle_data(self, data):
        self.words.append(data)

    def of(self, tag, css=None):
        return [attrs for name, attrs in self.tags if name == tag and css in (None, attrs.get("class"))]


@pytest.mark.parametrize("name", ["sorting_tray", "drip_bracket", "felt_pennant", "stake_tags", "tide_staff"])
def test_a_project_of_each_sort_has_a_page_that_needs_nothing_else(name):
    document, result, assembly = whole(projects()[name])
    html = look_page(document, result, assembly).decode()
    page = Read(html)
    assert not page.open
    # No address but the name of SVG, no style, script or picture from anywhere.
    assert set(re.findall(r"https?://[^\"]+", html)) <= {"http://www.w3.org/2000/svg"}
    assert not [attrs for tag, attrs in page.tags if {"src", "href", "srcset"} & set(attrs)]
    said = " ".join(page.words)
    assert all(one.name in said for one in (*document.parts, *document.stocks))
    lying = [p for p in document.layout.placements if p.part in result.parts]
    assert len(page.of("path", "part")) == len(result.parts) + len(lying)
    assert len(page.of("rect", "edge")) == len(document.layout.sheets)
    sides = {(one.get("data-side"), one.get("data-apart")) for one in page.of("svg") if "data-side" in one}
    assert len(sides) in (1, SIDES, 2 * SIDES) and len(page.of("svg", "on")) == 1


def test_the_thing_is_seen_from_all_sides_in_one_box_and_pulled_apart():
    _, result, assembly = whole(projects()["sorting_tray"])
    together, pulled = turned(result, assembly), turned(result, assembly, apart=True)
    assert len(together) == len(pulled) == SIDES and len(set(together)) == SIDES
    boxes = [{re.search(r'viewBox="([^"]+)"', svg)[1] for svg in views} for views in (together, pulled)]
    assert [len(box) for box in boxes] == [1, 1]
    width, wider = (float(box.pop().split()[2]) for box in boxes)
    assert wider > 1.3 * width
    # From its front it is what the picture of the project shows.
    drawn = r"<path[^>]+>"
    assert re.findall(drawn, together[0]) == re.findall(drawn, portrait(result, assembly))
    # A tray is alike from opposite sides but for its dividers: as much of it is seen.
    assert len(re.findall(drawn, together[0])) == pytest.approx(len(re.findall(drawn, together[SIDES // 2])), rel=0.2)


def test_what_is_too_rich_is_seen_from_its_front_alone_and_one_part_is_not_pulled_apart(monkeypatch):
    document, result, assembly = whole(projects()["sorting_tray"])
    faces = len(re.findall("<path", turned(result, assembly)[0]))
    for most, views in ((faces, SIDES), (faces - 1, 1)):
        monkeypatch.setattr(turned_pictures, "MOST_FACES", most)
        assert len(turned(result, assembly)) == views
    page = Read(look_page(document, result, assembly).decode())
    assert page.of("input") == [] and len([one for one in page.of("svg") if "data-side" in one]) == 1
    monkeypatch.undo()
    _, result, assembly = whole(projects()["drip_bracket"])
    assert len(turned(result, assembly)) == SIDES and turned(result, assembly, apart=True) == []


def test_what_is_neither_joined_nor_bent_is_shown_as_its_parts():
    document, result, assembly = whole(project([part("plate", 60, 40)]))
    assert turned(result, assembly) == []
    page = Read(look_page(document, result, assembly).decode())
    assert len(page.of("input")) == 0 and len(page.of("svg", "on")) == 1


def test_names_are_words_and_never_more():
    bad = '<script>alert(1)</script> & "co"'
    plate = {**part("plate", 60, 40), "name": bad}
    document, result, assembly = whole(project([plate]).model_copy(update={"name": bad}))
    page = Read(look_page(document, result, assembly).decode())
    assert len(page.of("script")) == 1 and " ".join(page.words).count(bad) == 4


def test_depths_and_bends_stand_beside_their_parts():
    pocket = {
        "id": "p",
        "hole": {"kind": "round", "diameter": "10"},
        "x": "20",
        "y": "20",
        "does": "pocket",
        "depth": "1.2",
    }
    document, result, assembly = whole(project([part("plate", 60, 40, cutouts=[pocket])]))
    said = " ".join(Read(look_page(document, result, assembly).decode()).words)
    assert "60 mm × 40 mm, 3.07 mm thick" in said and "sunk 1.2 mm deep" in said
    document, result, assembly = whole(projects()["drip_bracket"])
    assert "90° " in " ".join(Read(look_page(document, result, assembly).decode()).words)
