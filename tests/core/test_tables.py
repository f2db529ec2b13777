"""One table for each thing that a machine does, each stage and each format: types, core and page agree."""

import json
import re
from typing import get_args

from leannotch_core.document.formats import FORMATS, Reads, format_named, is_program
from leannotch_core.document.operations import OPERATIONS, ORDER, STAGES, WORKS, Stage, Work, work_of
from leannotch_core.drawings.formats import READERS
from leannotch_core.handover.formats import WRITERS
from leannotch_core.tables import written


def test_each_table_has_a_row_for_each_name_and_no_other():
    assert [row.name for row in OPERATIONS if not row.beside] == list(get_args(Work))
    assert list(STAGES) == list(get_args(Stage))
    assert list(FORMATS) == list(get_args(Reads))
    assert FORMATS.keys() == READERS.keys() == WRITERS.keys()
    # What is told apart in a file is told apart by each of its signs.
    for sign in ("name", "stroke", "aci"):
        assert len({getattr(row, sign) for row in OPERATIONS}) == len(OPERATIONS)
    assert [ORDER.index(row.work) for row in STAGES.values()] == sorted(
        ORDER.index(row.work) for row in STAGES.values()
    )


def test_files_are_known_by_their_endings():
    assert [format_named(name) for name in ("a.SVG", "b.tap", "NGC", "c.svgz", "d.step", "e")] == [
        "svg", "nc", "nc", "svg", None, None,
    ]  # fmt: skip
    assert [kind for kind in (*FORMATS, "step") if is_program(kind)] == ["nc"]
    assert work_of("drill") == "drill" and work_of("bend-up") == "cut"


def test_the_page_has_the_same_tables_and_they_are_written_only_when_they_changed(tmp_path):
    written(tmp_path)
    script, style = tmp_path / "tables.ts", tmp_path / "operations.css"
    tables = {
        name: json.loads(text) for name, text in re.findall(r"export const (\w+) = (.+) as const", script.read_text())
    }
    assert tables["WORKS"] == list(WORKS) == list(tables["OPERATIONS"])
    assert tables["STAGES"].keys() == STAGES.keys() and tables["FORMATS"].keys() == FORMATS.keys()
    assert tables["INCH"] == 25.4
    for row in OPERATIONS:
        assert f".op-{row.name} {{ stroke: {row.stroke};" in style.read_text()
        assert f".key-{row.name} {{ border-top:" in style.read_text()
    before = script.stat().st_mtime_ns
    written(tmp_path)
    assert script.stat().st_mtime_ns == before
