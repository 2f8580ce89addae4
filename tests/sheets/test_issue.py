"""A set in a folder: every format, read back and compared; what is wrong with a folder, a set or a format."""

import csv
import json
from pathlib import Path

import pytest
from openpyxl import load_workbook

from korbent.core.checks import State
from korbent.core.concrete.schedule import schedule_rows
from korbent.core.evaluate import evaluate
from korbent.core.model import Project, edited
from korbent.core.model.sheets import SheetChoice
from korbent.demo import DEMOS
from korbent.files.project_file import dumps, loads, save
from korbent.files.sheet import read_sheets
from korbent.sheets.catalogue import FORMATS, KINDS, set_named, usual_sets, with_set
from korbent.sheets.issue import formats_of, prefix_of, write_set
from korbent.sheets.tables import MAKERS, tables
from tests.test_cli import run


def with_all(project: Project) -> Project:
    """The first set with everything ticked."""
    own = usual_sets(project)[0]
    return with_set(project, own.replaced(sheets=tuple(SheetChoice(key=k) for k in KINDS), workings="none"), own.name)


def test_all_formats_are_written_and_nothing_else(demo: Project, tmp_path: Path) -> None:
    few = demo.replaced(pads=demo.pads[:4])
    project = with_all(few)
    before = edited(few, ("pads", few.pads[2].name, "width"), 2.3)
    told: list[tuple[int, int, str]] = []
    written = write_set(project, set_named(project, ""), tmp_path / "out", FORMATS, before, lambda *t: told.append(t))  # type: ignore[arg-type]
    assert sorted(written) == sorted((tmp_path / "out").iterdir())
    kinds = {p.suffix[1:] for p in written}
    assert kinds == set(FORMATS)
    assert all(p.stat().st_size > 100 for p in written)
    assert [t[0] for t in told] == list(range(len(told)))
    assert all(t[1] == len(told) for t in told)
    names = {p.name for p in written}
    assert {"2407-C-calculation.pdf", "2407-C-drawings.dxf", "2407-C-tables.xlsx", "2407-C-tables-changes.csv"} <= names


@pytest.mark.long
def test_it_can_be_left_off(demo: Project, tmp_path: Path) -> None:
    project = with_all(demo.replaced(pads=demo.pads[:4]))
    calls = iter([False, True])
    written = write_set(project, set_named(project, ""), tmp_path, ("pdf", "xlsx"), stop=lambda: next(calls))
    assert len(written) == 1


@pytest.mark.long
@pytest.mark.parametrize("name", list(DEMOS))
def test_the_workbook_has_what_was_computed(name: str, tmp_path: Path) -> None:
    project = DEMOS[name]()
    results = evaluate(project)
    own = usual_sets(project)[0].replaced(sheets=tuple(SheetChoice(key=k) for k in MAKERS))
    (path,) = write_set(project, own, tmp_path, ("xlsx",))
    book = load_workbook(path)
    assert book.sheetnames == [KINDS[k].title[:31] for k in MAKERS]
    for sheet in book.worksheets:
        assert sheet.freeze_panes == "A2"
        head = [c.value for c in sheet[1]]
        assert all(isinstance(h, str) and h for h in head)
        assert not [c for row in sheet.iter_rows() for c in row if c.data_type == "f"]
    checks = book[KINDS["checks"].title]
    head = [c.value for c in checks[1]]
    rows = {row[0].value: [c.value for c in row] for row in checks.iter_rows(min_row=2)}
    for result in results.pads:
        for check in result.checks:
            if check.state is State.NOT_APPLICABLE:
                continue
            value = rows[result.name][head.index(f"{check.check.title}, ratio")]
            assert value == (check.state.value if check.ratio is None else pytest.approx(check.ratio, abs=6e-5))
        for head_cell, cells in zip(checks[1], checks.iter_cols(min_row=2)):
            if str(head_cell.value).endswith(", ratio"):
                assert {c.number_format for c in cells if isinstance(c.value, float)} <= {
                    "0",
                    "0.0",
                    "0.00",
                    "0.000",
                    "0.0000",
                }
    days = book[KINDS["settlements"].title]
    column = [c.value for c in days[1]].index("date")
    dated = [row[column] for row in days.iter_rows(min_row=2) if row[column].value]
    assert all(c.is_date for c in dated)
    bars = book[KINDS["bars"].title]
    assert [
        [c.value if c.value is not None else "" for c in row] for row in bars.iter_rows(min_row=2)
    ] == schedule_rows(project)
    sides = book[KINDS["sides"].title]
    units = [c.value for c in sides[1]]
    assert any(u.endswith((", kPa", ", ksf")) for u in units)


def test_numbers_are_numbers_in_csv_too(demo: Project, tmp_path: Path) -> None:
    own = usual_sets(demo)[0].replaced(sheets=(SheetChoice(key="sizes"),))
    (path,) = write_set(demo, own, tmp_path, ("csv",))
    rows = list(csv.reader(path.read_text(encoding="utf-8-sig").splitlines()))
    grid = tables(demo, evaluate(demo), ("sizes",))[KINDS["sizes"].title]
    assert rows[0] == list(grid[0])
    for row, wanted in zip(rows[1:], grid[1]):
        for text, value in zip(row, wanted):
            if isinstance(value, float):
                assert float(text) == pytest.approx(value)
    assert read_sheets(path)[0].header[0] == "Base"


def test_quantities_add_up(demo: Project) -> None:
    head, rows = tables(demo, evaluate(demo), ("sizes",))[KINDS["sizes"].title]
    assert rows[-1][0] == "all"
    for k, name in enumerate(head):
        if name.startswith(("Bars", "Concrete", "Excavation", "Formwork", "Cost")):
            assert float(rows[-1][k] or 0) == pytest.approx(sum(float(r[k] or 0) for r in rows[:-1]), abs=0.02)


def test_formats_are_read_or_refused() -> None:
    assert formats_of(" PDF, dxf ,pdf") == ("pdf", "dxf")
    with pytest.raises(ValueError, match="there is no format 'dwg'; known: pdf, dxf"):
        formats_of("pdf,dwg")
    with pytest.raises(ValueError, match="no format is named"):
        formats_of(" , ")


def test_files_begin_with_number_and_revision(demo: Project) -> None:
    assert prefix_of(demo) == "2407-C"
    assert (
        prefix_of(edited(edited(demo, ("title", "number"), ""), ("title", "project"), "Quay / east: 2"))
        == "Quay-east-2-C"
    )


def test_a_file_in_the_place_of_the_folder(demo: Project, tmp_path: Path) -> None:
    (tmp_path / "out").write_text("a file")
    with pytest.raises(NotADirectoryError, match="Not a folder"):
        write_set(demo, set_named(demo, ""), tmp_path / "out")
    assert (tmp_path / "out").read_text() == "a file"


def test_sets_and_revisions_come_back_from_the_file(demo: Project, tmp_path: Path) -> None:
    from korbent.core.model.sheets import Revision

    project = with_all(demo).replaced(revisions=(Revision(name="A", reason="tender"),))
    again = loads(dumps(project), tmp_path / "p.korbent")
    assert again.sheet_sets == project.sheet_sets
    assert again.revisions == project.revisions


@pytest.mark.long
def test_the_commands(tmp_path: Path) -> None:
    old, new = DEMOS["redstem"](), None
    name = old.pads[0].name
    new = edited(old, ("pads", name, "width"), old.pad(name).width + 0.3048)
    save(old, tmp_path / "old.korbent")
    save(new, tmp_path / "new.korbent")
    out = tmp_path / "sheets"
    found = run(
        "sheets",
        tmp_path / "new.korbent",
        "--set",
        "For site",
        "--out",
        out,
        "--format",
        "pdf,dxf,svg,csv",
        "--since",
        tmp_path / "old.korbent",
    )
    assert found.returncode == 0, found.stderr
    assert sorted(map(str, out.iterdir())) == sorted(found.stdout.splitlines())
    said = run("compare", tmp_path / "old.korbent", tmp_path / "new.korbent")
    assert f"{name}: changed, worst" in said.stdout
    assert "ft" in said.stdout
    values = json.loads(run("compare", tmp_path / "old.korbent", tmp_path / "new.korbent", "--json").stdout)
    assert [b["base"] for b in values["bases"] if b["sizes"]] == [name]
    assert run("compare", tmp_path / "old.korbent", tmp_path / "old.korbent").stdout.strip() == "Nothing has changed."
    for words, text in (
        (
            ("sheets", tmp_path / "old.korbent", "--set", "x"),
            "there is no set 'x'; the project has: for approval, for site",
        ),
        (("sheets", tmp_path / "old.korbent", "--format", "dwg"), "there is no format 'dwg'"),
        (("sheets", tmp_path / "none.korbent"), "there is no such file"),
        (
            ("sheets", tmp_path / "old.korbent", "--set", "for site", "--out", tmp_path / "d", "--format", "docx"),
            "nothing of the set 'for site' is written as docx",
        ),
        (("report", tmp_path / "old.korbent", "--base", "X9"), "there is no foundation 'X9'"),
    ):
        refused = run(*words)
        assert refused.returncode == 2
        assert text in refused.stderr
    made = run("report", tmp_path / "old.korbent", "--base", name, "--out", tmp_path / "b.pdf")
    assert made.returncode == 0
    assert (tmp_path / "b.pdf").read_bytes()[:4] == b"%PDF"
