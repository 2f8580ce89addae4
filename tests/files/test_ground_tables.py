"""Tables of the ground: recognised by their columns, completed from the project, with all errors at their place."""

from pathlib import Path

import pytest

from korbent.core.model import Project
from korbent.files.ground_import import proposed
from korbent.files.ground_tables import read_any, read_ground
from korbent.files.sheet import TableError

HOLES = "Borehole,Easting [ft],Northing [ft],Elevation\nB1,10,20,5\nB2,30,40,6\n"
STRATA = "Hole;Soil;From;To\nB1;Fill;0;1,5\n;Clay;1,5;4\nB2;Clay;0;5\n"
TESTS = "Borehole,Test,Depth,Value,Unit\nB1,SPT N,1,12,\nB1,cu,2,1.2,ksf\n"


def write(tmp_path: Path, **texts: str) -> list[Path]:
    paths = []
    for name, text in texts.items():
        path = tmp_path / f"{name}.csv"
        path.write_text(text)
        paths.append(path)
    return paths


def test_tables_together_make_holes(tmp_path: Path) -> None:
    found = read_ground(write(tmp_path, a=HOLES, b=STRATA, c=TESTS), Project())
    assert found.problems == ()
    b1, b2 = proposed(Project(), found).ground.boreholes
    assert (b1.x, b1.ground_level) == (pytest.approx(3.048), 5.0)
    assert [(s.soil, s.thickness) for s in b1.strata] == [("Fill", 1.5), ("Clay", 2.5)]
    assert [s.thickness for s in b2.strata] == [5.0]
    assert b1.tests[1].value == pytest.approx(57.456, rel=1e-4)
    assert any("'Clay' is new" in r for r in found.remarks)


def test_a_table_of_tests_alone_completes_the_project(tmp_path: Path, demo: Project) -> None:
    found = read_ground(write(tmp_path, t="Borehole,Test,Depth,Value\nBH2,SPT N,1.0,11\n"), demo)
    hole = proposed(demo, found).ground.boreholes[1]
    assert hole.strata == demo.ground.boreholes[1].strata
    assert [t.value for t in hole.tests] == [11.0]


def test_given_parameters_change_the_others_stay(tmp_path: Path, demo: Project) -> None:
    found = read_ground(write(tmp_path, s="Soil,cu [ksf],OCR\nSilty clay,1.5,2.2\n"), demo)
    soil = next(s for s in proposed(demo, found).ground.soils if s.name == "Silty clay")
    assert soil.undrained_strength == pytest.approx(71.82, rel=1e-3)
    assert soil.overconsolidation_ratio == 2.2
    assert soil.compression_index == 0.23
    assert "imported from s.csv" in soil.sources["undrained_strength"]


@pytest.mark.parametrize(
    ("text", "place", "why"),
    [
        ("Soil,weight\nClay,heavy\n", "row 2, column 'weight'", "not a number"),
        ("Soil,weight\nClay,400\n", "row 2, Clay, weight", "less than or equal to 40"),
        ("Soil,weight\n,18\n", "row 2", "no name"),
        ("Soil,weight\nClay,18\nClay,19\n", "row 3", "a second time"),
        ("Borehole,Test,Depth,Value\nBH1,XYZ,1,2\n", "row 2", "'XYZ' is no known test"),
        ("Borehole,Test,Depth,Value\nBH9,cu,1,2\n", "BH9", "in no table of boreholes"),
        ("Borehole,Soil,Thickness\nBH1,Clay,-1\n", "row 2", "greater than 0"),
        ("Borehole,x,y,Ground level\nB1,1,,3\n", "row 2", "needs a name, x, y"),
        ("Borehole,x,y,Ground level\nB1,1,2,3\n", "B1", "no strata"),
        ("Borehole,Sample,Stress,Void ratio\nBH1,U9,50,0.8\nBH1,U9,100,0.7\n", "s.csv row 2", "needs a depth"),
    ],
)  # fmt: skip
def test_errors_stand_at_their_place(tmp_path: Path, demo: Project, text: str, place: str, why: str) -> None:
    found = read_ground(write(tmp_path, s=text), demo)
    assert any(place in p.place and why in p.message for p in found.problems), found.problems


def test_files_without_ground_say_what_is_needed(tmp_path: Path) -> None:
    with pytest.raises(TableError, match="no table of the ground"):
        read_ground(write(tmp_path, x="a,b\n1,2\n"), Project())
    with pytest.raises(TableError, match="one AGS4 file alone"):
        read_any([tmp_path / "a.ags", tmp_path / "b.csv"], Project())
    (tmp_path / "b.xlsx").write_bytes(b"PK\x03\x04nonsense")
    with pytest.raises(TableError, match="cannot be read"):
        read_any([tmp_path / "b.xlsx"], Project())
