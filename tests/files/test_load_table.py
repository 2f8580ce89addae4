"""Loads from CSV and XLSX: recognition, units, senses, differences, taking over."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import Workbook

from korbent.core.actions.generate import regenerated
from korbent.core.actions.rules import combinations_for
from korbent.core.model import Load, Project, edited
from korbent.files.loads.compare import differences, is_combination, nature_of, taken_over, totals
from korbent.files.loads.read import LoadTable, as_action, read_loads
from korbent.files.loads.recognise import Reading, heading, recognised
from korbent.files.sheet import TableError, read_sheet

PLAIN = (
    "Column,Case,V [kN],Hx [kN],Hy [kN],Mx [kNm],My [kNm]\nA1,G,318,-3.5,0,0,-4.5\nA1,Q,150,1,2,3,4\nB1,G,562,0,0,0,0\n"
)


def written(folder: Path, text: str, name: str = "loads.csv") -> Path:
    path = folder / name
    path.write_text(text, encoding="utf-8")
    return path


def table(folder: Path, text: str, **changes: object) -> LoadTable:
    sheet = read_sheet(written(folder, text))
    reading = recognised(sheet)
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
        ("point;case;V;Hx", "7;DL;1.234,5;2,5", Load(V=1234.5, Hx=2.5)),
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
    found = read_loads(found_sheet, recognised(found_sheet))
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
    assert ("A1", "Q", "V", 141.0, 150.0) in [(c.point, c.case, c.quantity, c.old, c.new) for c in found.changes]
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
    asked = table(tmp_path, text)
    with pytest.raises(TableError, match="no unit"):
        taken_over(Project(), asked)
    new = taken_over(Project(), table(tmp_path, text, answers=("units",)))
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


# what is not clear is asked, never guessed


def asks(project: Project, found: LoadTable) -> dict[str, str]:
    return {ask.key: ask.text for ask in differences(project, found).open}


@pytest.mark.parametrize(
    ("unit", "factor"),
    [
        ("Kip", 4.4482216),
        ("k", 4.4482216),
        ("kips", 4.4482216),
        ("KN", 1.0),
        ("lbs", 0.0044482216),
        ("MN", 1000.0),
        ("tf", 9.80665),
        ("N", 0.001),
    ],
)
def test_units_of_headings_are_read(tmp_path: Path, unit: str, factor: float) -> None:
    for head in (f"V ({unit})", f"V [{unit}]", f"V {unit}", f"Fz_{unit}"):
        found = table(tmp_path, f"point,case,{head}\nA,G,100\n", sense="actions, V down")
        assert not found.problems, head
        assert pytest.approx(100 * factor, rel=1e-6) == found.loads["A"]["G"].V


@pytest.mark.parametrize(
    ("unit", "factor"),
    [
        ("kip-in", 0.11298483),
        ("k-in", 0.11298483),
        ("kip-ft", 1.3558179),
        ("N-m", 0.001),
        ("Nmm", 1e-6),
        ("kN-m", 1.0),
        ("KNM", 1.0),
    ],
)
def test_units_of_moments_are_read(tmp_path: Path, unit: str, factor: float) -> None:
    found = table(tmp_path, f"point,case,V [kN],Mx [{unit}]\nA,G,1,100\n")
    assert found.loads["A"]["G"].Mx == pytest.approx(100 * factor, rel=1e-6)


@pytest.mark.parametrize(
    ("unit", "says"),
    [
        ("tonf", "short or metric"),
        ("ton", "short or metric"),
        ("furlong", "not a unit"),
        ("kPa", "not a unit"),
    ],
)
def test_a_unit_that_is_not_understood_is_never_a_default(tmp_path: Path, unit: str, says: str) -> None:
    found = table(tmp_path, f"point,case,V ({unit})\nA,G,100\n")
    assert not found.loads
    assert says in str(found.problems[0])
    assert "V" in found.problems[0].place


def test_without_a_unit_that_of_the_project_is_proposed_with_the_ratio(tmp_path: Path, demo: Project) -> None:
    text = "Column,Case,V\nA1,G,636\nA1,Q,282\n"
    found = table(tmp_path, text)
    asked = asks(demo, found)["units"]
    assert "V in kN" in asked
    ours = sum(demo.load_point("A1").loads[c].V for c in "GQ")
    assert f"{918 / ours:.3g} times" in asked
    us = edited(demo, ("units",), "us")
    sheet = read_sheet(written(tmp_path, text))
    reading = recognised(sheet, us.showing)
    assert reading.units["V"] == "kip"
    assert reading.assumed == ("V",)
    assert not asks(demo, table(tmp_path, text, answers=("units",)))


def test_commas_are_decided_by_the_other_numbers_or_asked(tmp_path: Path) -> None:
    head = "point;case;V [kN];Hx [kN]\n"
    assert table(tmp_path, head + "A;G;1,250;2,5\n").loads["A"]["G"].V == 1.25
    assert table(tmp_path, head + "A;G;1,250;2.5\n").loads["A"]["G"].V == 1250.0
    asked = table(tmp_path, head + "A;G;1,250;2\n")
    assert "1.25 or 1250" in str(asked.problems[0])
    assert "row 2, column 'V [kN]'" in asked.problems[0].place
    assert table(tmp_path, head + "A;G;1,250;2\n", decimal=".").loads["A"]["G"].V == 1250.0
    assert table(tmp_path, head + "A;G;1,250;2\n", decimal=",").loads["A"]["G"].V == 1.25
    both = table(tmp_path, head + "A;G;1,25;2.5\n")
    assert "decimal sign" in both.problems[0].place
    sheet = read_sheet(written(tmp_path, head + "A;G;1,250;2\n"))
    assert read_loads(sheet, recognised(sheet), "us").loads["A"]["G"].V == 1250.0


@pytest.mark.parametrize(
    ("title", "sense"),
    [
        ("Joint Reactions", "reactions, z up"),
        ("Support reactions, all cases", "reactions, z up"),
        ("Joint forces", "actions, z up"),
    ],
)
def test_the_title_tells_reactions_from_actions(tmp_path: Path, title: str, sense: str) -> None:
    text = f"{title}\n\nJoint,OutputCase,F1 [kN],F2 [kN],F3 [kN]\n".replace("OutputCase", "Case") + "7,DEAD,1,2,300\n"
    sheet = read_sheet(written(tmp_path, text))
    assert sheet.title == title.split(",")[0] + (" all cases" if "," in title else "")
    reading = recognised(sheet)
    assert reading.sense == sense
    load = read_loads(sheet, reading).loads["7"]["DEAD"]
    assert (300.0 if sense.startswith("react") else -300.0) == load.V
    assert load.Hx == (-1.0 if sense.startswith("react") else 1.0)


def test_loads_that_mostly_lift_are_asked_about(tmp_path: Path) -> None:
    found = table(tmp_path, "point,case,x [m],y [m],Fz [kN]\nA,G,0,0,300\nB,G,5,0,200\nC,G,9,0,-10\n")
    assert "2 of 3" in asks(Project(), found)["lifting"]
    assert "lifting" not in asks(
        Project(), table(tmp_path, "point,case,x [m],y [m],Fz [kN]\nA,G,0,0,-300\nB,G,5,0,-2\n")
    )


def test_y_may_point_upwards(tmp_path: Path) -> None:
    """Reactions of a frame whose y is upwards: the column presses with FY, leans with FX and FZ."""
    text = "Node,Case,FX [kN],FY [kN],FZ [kN],MX [kNm],MY [kNm],MZ [kNm]\n1,DL,10,-400,3,5,1,20\n2,DL,8,-300,2,5,1,20\n"
    found = table(tmp_path, text)
    assert "upwards" in asks(Project(), found)["up"]
    load = table(tmp_path, text, up="y", sense="actions, z up").loads["1"]["DL"]
    assert load == Load(V=400.0, Hx=10.0, Hy=-3.0, Mx=5.0, My=-20.0, Mz=1.0)
    said = recognised(read_sheet(written(tmp_path, "Reactions, y up\n" + text)))
    assert said.up == "y"


def test_one_column_a_case(tmp_path: Path) -> None:
    found = table(tmp_path, "Column,G [kN],Q [kN],W [kN]\nA,300,120,-10\nB,200,80,5\n")
    assert {c: v.V for c, v in found.loads["A"].items()} == {"G": 300.0, "Q": 120.0, "W": -10.0}
    named = table(tmp_path, "Column,G V [kN],G Hx [kN],Q V [kN]\nA,300,5,120\n")
    assert named.loads["A"]["G"] == Load(V=300.0, Hx=5.0)
    assert named.loads["A"]["Q"] == Load(V=120.0)


def test_envelopes_are_two_cases_that_exclude_each_other(tmp_path: Path) -> None:
    text = "Column,x [m],y [m],Case,Fz max [kN],Fz min [kN],Mx [kNm]\nA,0,0,ENV,500,120,7\n"
    found = table(tmp_path, text, sense="actions, V down")
    assert found.loads["A"] == {"ENV max": Load(V=500.0, Mx=7.0), "ENV min": Load(V=120.0, Mx=7.0)}
    assert "combinations" in asks(Project(), found)
    new = taken_over(Project(), table(tmp_path, text, sense="actions, V down", answers=("combinations",)))
    assert {c.exclusive for c in new.actions.cases} == {"imported combinations"}


def test_combinations_in_the_table_are_not_factored_again(tmp_path: Path) -> None:
    text = "Column,x [m],y [m],Case,V [kN]\nA,0,0,1.35G+1.5Q,600\nA,0,0,SLS char,430\nA,0,0,DL,300\n"
    found = table(tmp_path, text)
    assert "1.35G+1.5Q" in asks(Project(), found)["combinations"]
    new = taken_over(Project(), table(tmp_path, text, answers=("combinations",)))
    rows = {c.name: c for c in new.actions.combinations}
    assert rows["1.35G+1.5Q"].factors == {"1.35G+1.5Q": 1.0}
    assert rows["1.35G+1.5Q"].serves == ("ultimate", "concrete")
    assert rows["SLS char"].serves == ("allowable",)
    # they are as if written by hand: generating others leaves them
    again = regenerated(new.actions.combinations, combinations_for("EN 1990 (6.10), DA1", new.actions.cases))
    assert all(row in again for row in rows.values())
    assert not any("1.35G+1.5Q" in c.factors for c in again if c.origin)
    assert [c.name for c in new.actions.cases if not c.exclusive] == ["DL"]
    assert not is_combination("DL")
    assert not is_combination("W+x")
    assert not is_combination("Q roof")


@pytest.mark.parametrize(
    ("case", "nature"),
    [
        ("DL", "permanent"),
        ("SDL", "permanent"),
        ("Dead", "permanent"),
        ("Self weight", "permanent"),
        ("weight", "permanent"),
        ("LL", "imposed"),
        ("Live load", "imposed"),
        ("Wx", "wind"),
        ("W+x", "wind"),
        ("Wind 1", "wind"),
        ("Snow", "snow"),
        ("EQX", "seismic"),
        ("Ex", "seismic"),
        ("Earthquake", "seismic"),
        ("Earth pressure", "soil"),
        ("Earth", "soil"),
        ("EP", "soil"),
        ("Water", "water"),
        ("Hydrostatic", "water"),
        ("Impact", "accidental"),
        ("Weird", None),
        ("Special 3", None),
        ("Eccentric crane", None),
        ("Walkway", None),
        ("LC7", None),
    ],
)
def test_kinds_of_action_are_guessed_only_when_sure(case: str, nature: str | None) -> None:
    assert nature_of(case) == nature


def test_a_kind_that_is_not_sure_is_asked_for(tmp_path: Path) -> None:
    text = "Column,x [m],y [m],Case,V [kN]\nA,0,0,Walkway,60\n"
    assert "Walkway" in asks(Project(), table(tmp_path, text))["nature:Walkway"]
    with pytest.raises(TableError, match="kind of action"):
        taken_over(Project(), table(tmp_path, text))
    new = taken_over(Project(), table(tmp_path, text, natures={"Walkway": "imposed"}))
    assert new.actions.cases[0].nature == "imposed"


def test_two_rows_of_headings_and_one_of_units(tmp_path: Path) -> None:
    text = "Base reactions\nJoint,Case,Forces,,,Moments,\n,,FX,FY,FZ,MX,MY\n,,kN,kN,kN,kN-m,kN-m\n4,DEAD,1,2,300,4,5\n"
    sheet = read_sheet(written(tmp_path, text))
    assert [heading(h)[0] for h in sheet.header] == ["Joint", "Case", "FX", "FY", "FZ", "MX", "MY"]
    found = read_loads(sheet, recognised(sheet))
    assert found.loads["4"]["DEAD"] == Load(V=300.0, Hx=-1.0, Hy=-2.0, Mx=-4.0, My=-5.0)
    by_case = "Column,Dead,,Live,\n,V,Mx,V,Mx\nA,300,4,120,1\n"
    other = table(tmp_path, by_case)
    assert other.loads["A"] == {"Dead": Load(V=300.0, Mx=4.0), "Live": Load(V=120.0, Mx=1.0)}


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
def test_other_encodings(tmp_path: Path, encoding: str) -> None:
    (tmp_path / "l.csv").write_bytes("Stütze;Case;V [kN]\nÄ1;G;300\n".replace("Stütze", "Column").encode(encoding))
    sheet = read_sheet(tmp_path / "l.csv")
    assert read_loads(sheet, recognised(sheet)).loads["Ä1"]["G"].V == 300.0
