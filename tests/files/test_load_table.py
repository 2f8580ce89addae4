"""Loads from CSV and XLSX: recognition, units, senses, differences, taking over."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import Workbook

from korbent.core.model import Load, Project, edited
from korbent.files.load_table import (
    LoadTable,
    Reading,
    as_action,
    differences,
    read_loads,
    recognised,
    taken_over,
    totals,
)
from korbent.files.sheet import TableError, read_sheet

PLAIN = "Column,Case,V [kN],Hx [kN],Hy [kN],Mx [kNm],My [kNm]\nA1,G,318,-3.5,0,0,-4.5\nA1,Q,150,1,2,3,4\nB1,G,562,0,0,0,0\n"


def written(folder: Path, text: str, name: str = "loads.csv") -> Path:
    path = folder / name
    path.write_text(text, encoding="utf-8")
    return path


def table(folder: Path, text: str, **changes: object) -> LoadTable:
    sheet = read_sheet(written(folder, text))
    reading = recognised(sheet.header)
    return read_loads(sheet, Reading(**{**vars(reading), **changes}))  # type: ignore[arg-type]


def test_columns_and_units_are_recognised(tmp_path: Path) -> None:
    found = table(tmp_path, PLAIN)
    assert not found.problems
    assert found.loads["A1"]["Q"] == Load(V=150, Hx=1, Hy=2, Mx=3, My=4)
    assert found.cases == ("G", "Q")


@pytest.mark.parametrize(
    ("header", "values", "load"),
    [
        ("Node;Load case;Fz (kip);Fx (kip)", "7;DL;-100;2", Load(V=444.822162, Hx=8.896443)),
        ("Joint\tLC\tRz [kN]\tRx [kN]\tRmy [kNm]", "7\tDL\t100\t2\t5", Load(V=100, Hx=-2, My=-5)),
        ("Support,Case,N,Mx", "7,DL,1 234.5,-6", Load(V=1234.5, Mx=-6)),
        ("point;case;V;Hx", "7;DL;1.234,5;2,5", None),
        ("point;case;V;Hx", "7;DL;1 234,5;2,5", Load(V=1234.5, Hx=2.5)),
        ("Mark,Action,V [MN]", "7,DL,0.5", Load(V=500)),
        ("point,case,V", "7,DL,120 kip", Load(V=533.786594)),
        ("point,case,V", "7,DL,-", Load()),
    ],
)
def test_tables_of_many_kinds(tmp_path: Path, header: str, values: str, load: Load | None) -> None:
    found = table(tmp_path, f"{header}\n{values}\n")
    if load is None:
        assert found.problems
        return
    assert not found.problems
    for quantity in Load.model_fields:
        assert getattr(found.loads["7"]["DL"], quantity) == pytest.approx(getattr(load, quantity), rel=1e-6)


def test_a_row_of_units_below_the_header(tmp_path: Path) -> None:
    found = table(tmp_path, "point,case,V,Mx\n,,kip,kip-ft\nA,G,10,3\n")
    assert pytest.approx(44.482, rel=1e-4) == found.loads["A"]["G"].V
    assert found.loads["A"]["G"].Mx == pytest.approx(4.0675, rel=1e-4)


def test_lines_above_the_header_and_blank_rows(tmp_path: Path) -> None:
    found = table(tmp_path, "42\n\npoint,case,V\n\nA,G,10\n,Q,4\n\nB,G,7\n")
    assert found.loads["A"]["Q"].V == 4.0
    assert found.loads["B"]["G"].V == 7.0


def test_a_workbook(tmp_path: Path) -> None:
    book = Workbook()
    sheet = book.active
    assert sheet is not None
    for row in (
        ["Column", "Case", "V [kN]", "x [m]", "y [m]"],
        ["Z1", "G", 400, 3.5, 7],
        ["Z1", "Q", 120.5, 3.5, 7],
    ):
        sheet.append(row)
    book.save(tmp_path / "loads.xlsx")
    found_sheet = read_sheet(tmp_path / "loads.xlsx")
    found = read_loads(found_sheet, recognised(found_sheet.header))
    assert found.loads["Z1"]["Q"].V == 120.5
    assert found.places["Z1"] == (3.5, 7.0)


@pytest.mark.parametrize(
    ("name", "text", "says"),
    [
        ("a.csv", "", "no header"),
        ("a.csv", "1,2,3\n4,5,6\n", "no header"),
        ("a.xlsx", "this is no workbook", "not a workbook"),
    ],
)
def test_files_that_are_no_tables(tmp_path: Path, name: str, text: str, says: str) -> None:
    with pytest.raises(TableError, match=says):
        read_sheet(written(tmp_path, text, name))
    with pytest.raises(TableError, match="cannot be read"):
        read_sheet(tmp_path / "none.csv")
    (tmp_path / "b.csv").write_bytes(b"\xff\xfe\xfa")
    with pytest.raises(TableError, match="cannot be read"):
        read_sheet(tmp_path / "b.csv")


def test_every_problem_is_listed_with_its_place(tmp_path: Path) -> None:
    found = table(tmp_path, "point,case,V [kN],Hx [kN]\nA,G,ten,1\nA,Q,5,3 ft\nB,,4,0\nA,Q,6,0\n")
    text = "\n".join(map(str, found.problems))
    for part in (
        "row 2, column 'V [kN]'",
        "row 3, column 'Hx [kN]'",
        "row 4: has no load case",
        "row 5: A has the case Q a second time",
    ):
        assert part in text
    missing = table(tmp_path, "case,weight\nG,4\n")
    assert "no column is chosen for point" in str(missing.problems[0])


def test_senses() -> None:
    values = {"V": 100.0, "Hx": 5.0, "Hy": -3.0, "Mx": 20.0, "My": 10.0}
    assert as_action(values, "actions, V down", False) == Load(V=100, Hx=5, Hy=-3, Mx=20, My=10)
    assert as_action(values, "actions, z up", False) == Load(V=-100, Hx=5, Hy=-3, Mx=20, My=10)
    assert as_action(values, "reactions, z up", False) == Load(V=100, Hx=-5, Hy=3, Mx=-20, My=-10)


@given(*[st.floats(-500, 500)] * 4)
def test_swapped_axes_keep_what_a_force_does(Hx: float, Hy: float, Mx: float, My: float) -> None:
    """Seen in the mirrored plan, the eccentricities e_x = My/V and e_y = -Mx/V change places, and so do the forces."""
    load = as_action({"V": 100.0, "Hx": Hx, "Hy": Hy, "Mx": Mx, "My": My}, "actions, V down", True)
    assert (load.Hx, load.Hy) == (Hy, Hx)
    assert load.My == pytest.approx(-Mx)
    assert -load.Mx == pytest.approx(My)
    back = as_action({q: getattr(load, q) for q in ("V", "Hx", "Hy", "Mx", "My")}, "actions, V down", True)
    assert (back.Hx, back.Mx, back.My) == pytest.approx((Hx, Mx, My))


def test_differences_with_the_project(tmp_path: Path, demo: Project) -> None:
    found = differences(demo, table(tmp_path, PLAIN + "Z9,Snow,5,0,0,0,0\n"))
    assert ("A1", "Q", "V", 141.0, 150.0) in [
        (c.point, c.case, c.quantity, c.old, c.new) for c in found.changes
    ]
    assert not any(c.point == "A1" and c.case == "G" for c in found.changes)
    assert found.new_points == ("Z9",)
    assert found.new_cases == ("Snow",)
    assert "C3" in found.gone
    assert "no x and y" in str(found.problems[0])


def test_taking_over_changes_what_it_says_and_nothing_else(tmp_path: Path, demo: Project) -> None:
    new = taken_over(demo, table(tmp_path, PLAIN))
    assert new.load_point("A1").loads["Q"].V == 150.0
    assert new.load_point("A1").loads["W+x"] == demo.load_point("A1").loads["W+x"]
    assert new.load_point("A1").imported["Q"].V == 150.0
    assert new.load_point("C3") is demo.load_point("C3")
    assert differences(new, table(tmp_path, PLAIN)).changes == ()
    with pytest.raises(TableError, match="Z9"):
        taken_over(demo, table(tmp_path, PLAIN + "Z9,G,5,0,0,0,0\n"))


def test_new_columns_and_cases_enter_an_empty_project(tmp_path: Path) -> None:
    text = "Column,x,y,Case,V\nA,0,0,DL,300\nA,0,0,LL,120\nA,0,0,Wx,-10\nB,6,0,DL,350\n"
    new = taken_over(Project(), table(tmp_path, text))
    assert [p.name for p in new.actions.load_points] == ["A", "B"]
    assert [(c.name, c.nature) for c in new.actions.cases] == [
        ("DL", "permanent"),
        ("LL", "imposed"),
        ("Wx", "wind"),
    ]
    assert new.load_point("B").x == 6.0


def test_totals(tmp_path: Path, demo: Project) -> None:
    found = totals(table(tmp_path, PLAIN).loads)
    assert found["G"].V == 880.0
    assert found["Q"].My == 4.0
    everything = totals({p.name: p.loads for p in demo.actions.load_points})
    assert pytest.approx(sum(p.loads["G"].V for p in demo.actions.load_points)) == everything["G"].V


def test_a_later_change_by_hand_is_seen(tmp_path: Path, demo: Project) -> None:
    new = taken_over(demo, table(tmp_path, PLAIN))
    changed = edited(new, ("actions", "load_points", "A1", "loads", "Q", "V"), 155.0)
    point = changed.load_point("A1")
    assert point.loads["Q"] != point.imported["Q"]
