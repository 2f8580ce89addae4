"""Settlement over time in a spreadsheet, on the command line and in the report."""

import csv
import json
from pathlib import Path

import pytest
from openpyxl import load_workbook

from korbent.core.evaluate import evaluate
from korbent.core.model import AreaLoad, Project, SettlementMark, edited
from korbent.core.settlement.history import history, mark_history
from korbent.files.project_file import save
from korbent.files.settlement_tables import as_values, write_settlement
from korbent.sheets.report import write_report
from korbent.verification.settlement_construction import ON, filled
from tests.sheets.pdf_text import texts_of
from tests.test_cli import run


@pytest.fixture
def tank() -> Project:
    project = filled(
        ON,
        soil={"consolidation_coefficient": 0.02},
        load=AreaLoad(name="Fill", shape="circle", size_x=10.0, pressure=90.0),
    )
    marks = (SettlementMark(name="M", limit=0.05), SettlementMark(name="E", x=5.0, limit=1.0))
    return project.replaced(actions=project.actions.replaced(marks=marks))


@pytest.mark.long
def test_a_workbook_over_time_and_depth(demo: Project, tmp_path: Path) -> None:
    path = tmp_path / "over-time.xlsx"
    assert write_settlement(demo, path) == len(demo.pads)
    book = load_workbook(path, read_only=True)
    assert book.sheetnames[:2] == ["Over time", "Over depth"]
    rows = [list(r) for r in book["Over time"].iter_rows(values_only=True)]
    head = rows[0]
    own = history(demo).pad("P7")
    assert own is not None
    last = [r for r in rows if r[0] == "P7"][-1]
    assert last[head.index("event")] == "in the end"
    assert float(last[4]) == pytest.approx(1000 * own.final, abs=1e-3)
    assert sum(float(last[i]) for i in (5, 6, 7)) == pytest.approx(float(last[4]), abs=1e-3)
    assert any(r[head.index("event")] == "end of primary" for r in rows if r[0] == "P7")
    deep = [list(r) for r in book["Over depth"].iter_rows(values_only=True)]
    days = sorted({float(r[1]) for r in deep[1:] if r[0] == "P7"})
    at_last = [r for r in deep[1:] if r[0] == "P7" and float(r[1]) == days[-1]]
    assert sum(float(r[-1]) for r in at_last) == pytest.approx(1000 * own.total[-1], rel=1e-3)


def test_a_table_in_us_units(demo: Project, tmp_path: Path) -> None:
    path = tmp_path / "t.csv"
    write_settlement(edited(demo, ("units",), "us"), path)
    rows = list(csv.reader(path.read_text(encoding="utf-8-sig").splitlines()))
    assert "settlement, in" in rows[0]
    own = history(demo).pad("P7")
    assert own is not None
    last = [r for r in rows if r[0] == "P7"][-1]
    assert float(last[4]) == pytest.approx(own.final / 0.0254, abs=1e-3)
    with pytest.raises(ValueError, match="csv"):
        write_settlement(demo, tmp_path / "t.txt")


@pytest.mark.long
def test_marks_on_the_command_line(tank: Project, tmp_path: Path) -> None:
    path = tmp_path / "tank.korbent"
    save(tank, path)
    checked = run("check", path)
    assert checked.returncode == 1
    assert "M      Settlement of a mark" in checked.stdout
    assert "fails" in checked.stdout
    found = run("settlement", path, "--degree", "0.5", "--point", "M", "--level", "-3", "--out", tmp_path / "t.xlsx")
    assert found.returncode == 0
    days = float(found.stdout.split("50 % at -3.00 m: ")[1].split()[0])
    assert days == pytest.approx(mark_history(tank, tank.actions.marks[0]).time_at_level(0.5, -3.0), abs=0.06)
    assert (tmp_path / "t.xlsx").exists()
    for words, said in (
        (("--degree", "1.5"), "between 0 and 1"),
        (("--point", "Z"), "no foundation or mark 'Z'"),
        (("--out", tmp_path / "t.doc"), "not written"),
    ):
        refused = run("settlement", path, *words)
        assert refused.returncode == 2
        assert said in refused.stderr


def test_values_for_json_are_those_of_the_checks(tank: Project) -> None:
    values = as_values(tank)
    json.dumps(values, allow_nan=False)
    first = values["points"][0]
    assert first["final_mm"] == pytest.approx(evaluate(tank).marks[0].demand)
    assert first["t50"] < first["t90"] < first["t95"]
    cells = first["over_depth"][0]["cells"]
    assert sum(c["compression"] for c in cells) * 1000 == pytest.approx(
        first["over_time"][-2]["settlement_mm"], rel=1e-6
    )


def test_the_report_tells_settlement_over_time(tank: Project, demo: Project, tmp_path: Path) -> None:

    path = tmp_path / "r.pdf"
    write_report(tank, path)
    text = "\n".join(texts_of(path))
    assert "Settlement over time" in text
    assert "in the end" in text
    assert "Over depth below M" in text
    assert "Mark" in text
    found = 1000 * mark_history(tank, tank.actions.marks[0]).final
    assert f"{found:.6g}"[:5] in text
