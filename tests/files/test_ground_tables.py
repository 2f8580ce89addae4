"""Tables of the ground: recognised by their columns, completed from the project, with all errors at their place."""

from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from korbent.core.model import (
    Borehole,
    Ground,
    GroundTest,
    Oedometer,
    Project,
    Quantity,
    Soil,
    Stratum,
    Surfaces,
    Water,
)
from korbent.core.model.edit import expressed, recomputed
from korbent.core.model.frozen import Expression
from korbent.core.model.ground import Backfill, OverLevel, Readings
from korbent.files.ground_import import proposed
from korbent.files.ground_tables import read_any, read_ground, write_ground
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
        ("Borehole,x,y,Ground level\nB1,1,2,3\n", "B1", "neither strata nor tests"),
        ("Borehole,Sample,Stress,Void ratio\nBH1,U9,50,0.8\nBH1,U9,100,0.7\n", "s.csv row 2", "needs a depth"),
    ],
)
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


notes = st.text(alphabet="abc ;,=\"'\n\u00e4|", min_size=1, max_size=12).map(str.strip).filter(bool)
cents = st.integers(1, 4000).map(lambda i: i / 100)


@st.composite
def rich_grounds(draw: st.DrawFn) -> Ground:
    """A ground with everything that a table can carry."""

    def said(*fields: str) -> dict[str, str]:
        return {f: draw(notes) for f in draw(st.lists(st.sampled_from(fields), max_size=2, unique=True))}

    def line(parameter: str) -> OverLevel:
        levels = sorted(draw(st.lists(cents, min_size=1, max_size=3, unique=True)), reverse=True)
        kind = draw(st.sampled_from(["linear", "stepwise"]))
        return OverLevel(kind=kind, points=tuple((z, draw(st.integers(20, 40)) + 0.3) for z in levels))

    soils = tuple(
        Soil(
            name=name,
            weight=18.0,
            weight_saturated=20.0,
            friction_angle=30.0,
            undrained_strength=40.0,
            notes=said("weight", "description"),
            sources=said("friction_angle", "weight"),
            over_level={f: line(f) for f in draw(st.sets(st.sampled_from(["friction_angle", "undrained_strength"])))},
            expressions={"weight": Expression(text="=9*2", units="metric")} if draw(st.booleans()) else {},
        )
        for name in ("Fill; old", "Clay, grey")
    )
    points = tuple((float(p), e / 1000) for p, e in zip((25, 50, 100), (900, 850, 700)))

    def oedometer(sample: str, depth: float) -> Oedometer:
        readings = tuple(
            Readings(
                stress=s,
                height=draw(st.sampled_from([19.0, 20.0])),
                points=((0.0, 0.0), (1.0, 0.1), (9.0, draw(cents))),
            )
            for s in draw(st.lists(st.sampled_from([25.0, 50.0, 100.0]), max_size=2, unique=True))
        )
        return Oedometer(
            sample=sample,
            depth=depth,
            void_ratio=0.95,
            points=points,
            readings=readings,
            notes=said("void_ratio"),
        )

    holes = tuple(
        Borehole(
            name=name,
            x=draw(cents),
            y=draw(cents),
            ground_level=draw(cents),
            rigid_below=draw(st.booleans()),
            notes=said("x", "ground_level"),
            strata=tuple(Stratum(soil=s.name, thickness=draw(cents), notes=said("thickness")) for s in soils),
            tests=(GroundTest(kind="cu", depth=1.0, value=draw(cents), notes=said("value")),),
            # one sample may be tested at two depths
            oedometers=tuple(
                oedometer("U1", d) for d in draw(st.lists(st.sampled_from([1.5, 2.5]), max_size=2, unique=True))
            ),
        )
        for name in draw(st.lists(st.sampled_from(["B1", "B 2", "B;3"]), min_size=1, max_size=3, unique=True))
    )
    return Ground(
        soils=soils,
        boreholes=holes,
        water=Water(low=-0.5, normal=draw(cents), high=50.0),
        spt_energy=72.0,
        interpolation="triangulated",
        surfaces=Surfaces(finished=draw(cents), excavated=-1.5),
        backfill=Backfill(name="Crushed; rock", weight=19.0),
        notes=said("surfaces.finished"),
    )


@pytest.mark.long
@given(rich_grounds())
@settings(max_examples=15)
def test_tables_lose_nothing_at_all(tmp_path_factory: pytest.TempPathFactory, ground: Ground) -> None:
    """Notes, sources, expressions, lines over level, readings over time, water, surfaces: all comes back the same."""
    folder = tmp_path_factory.mktemp("trip")
    for name in ("t.csv", "t.xlsx"):
        found = read_ground(write_ground(Project(ground=ground), folder / name), Project())
        assert found.problems == ()
        back = proposed(Project(), found).ground
        assert [h.model_dump() for h in back.boreholes] == [h.model_dump() for h in ground.boreholes]
        for a, b in zip(back.soils, ground.soils):
            assert {k: v for k, v in a.sources.items() if not v.startswith("imported")} == {**b.sources}
            assert a.replaced(sources={}) == b.replaced(sources={})
        assert back.replaced(soils=(), boreholes=()) == ground.replaced(soils=(), boreholes=())


def test_lines_and_notes_alone_complete_a_soil(tmp_path: Path, demo: Project) -> None:
    lines = (
        "Soil,Parameter,Line,Level [ft],Value,Unit\nSilty clay,undrained strength,stepwise,10,1.2,ksf\n,,,0,1.5,ksf\n"
    )
    note = "Note on;of;field;note\nsoil;Silty clay;undrained_strength;from vane tests\nstratum;BH1;thickness;seen\n"
    found = read_ground(write(tmp_path, a=lines, b=note), demo)
    assert [p.message for p in found.problems] == ["BH1 has 6 strata, none is number 0: it is left out"]
    soil = next(s for s in proposed(demo, found).ground.soils if s.name == "Silty clay")
    line = soil.over_level["undrained_strength"]
    assert (line.kind, [z for z, _ in line.points]) == ("stepwise", [pytest.approx(3.048), 0.0])
    assert line.points[0][1] == pytest.approx(57.456, rel=1e-4)
    assert soil.notes["undrained_strength"] == "from vane tests"
    old = next(s for s in demo.ground.soils if s.name == "Silty clay")
    assert soil.modulus == old.modulus


def test_an_expression_without_its_names_is_left_out_its_value_stays(tmp_path: Path) -> None:
    project = Project(
        quantities=(Quantity(name="g1", value=19.0, unit="kN/m3"),),
        ground=Ground(
            soils=(Soil(name="S", weight=19.0, weight_saturated=20.0, expressions={"weight": Expression(text="=g1")}),)
        ),
    )
    paths = write_ground(project, tmp_path / "t.csv")
    found = read_ground(paths, Project())
    assert "without their expressions" in found.problems[0].message
    soil = proposed(Project(), found).ground.soils[0]
    assert soil.weight == 19.0
    assert not soil.expressions
    kept = read_ground(paths, Project(quantities=project.quantities))
    assert kept.problems == ()
    assert kept.soils[0].expressions["weight"].text == "=g1"


def test_a_value_from_a_file_no_longer_comes_from_an_expression(tmp_path: Path, demo: Project) -> None:
    i = next(i for i, s in enumerate(demo.ground.soils) if s.name == "Silty clay")
    project = expressed(demo, ("ground", "soils", "Silty clay", "weight"), "=9*2")
    assert project.ground.soils[i].weight == 18.0
    found = read_ground(write(tmp_path, s="Soil,weight\nSilty clay,19.5\n"), project)
    soil = recomputed(proposed(project, found)).ground.soils[i]
    assert (soil.weight, dict(soil.expressions)) == (19.5, {})


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("Borehole,Sample,Stress,Time,Settlement\nBH1,none,50,0,0\n", "no oedometer test of the sample"),
        ("Borehole,Sample,Stress,Time,Settlement\nBH1,U1,,0,0\n", "needs a borehole, a sample, a stress"),
        ("Soil,Parameter,Level,Value\nSilty clay,weight,1,18\n", "one of: friction_angle"),
        ("Soil,Parameter,Level,Value\nNo soil,modulus,1,18\n", "in no table and not in the project"),
        ("Soil,Parameter,Level,Value\nSilty clay,modulus,1,x\n", "not a number"),
        ("Soil,Parameter,Level,Value\nSilty clay,modulus,1,5\nSilty clay,modulus,2,6\n", "must fall"),
        ("Site item,Value,Unit\nmoon,1,m\n", "nothing of the site"),
        ("Site item,Value,Unit\nSPT energy,400,%\n", "less than or equal to 100"),
        ("Note on,of,field,note\nhouse,H1,x,hello\n", "what it is on"),
        ("Note on,of,field,note\nborehole,H1,x,hello\n", "in no table of boreholes"),
    ],
)
def test_errors_of_the_further_tables(tmp_path: Path, demo: Project, text: str, why: str) -> None:
    found = read_ground(write(tmp_path, s=text), demo)
    assert any(why in p.message for p in found.problems), found.problems
    assert proposed(demo, found).ground.boreholes == demo.ground.boreholes


def test_a_soil_name_that_is_too_long_is_listed(tmp_path: Path) -> None:
    path = tmp_path / "soils.csv"
    path.write_text(
        "name,pattern,weight [kN/m3],weight saturated [kN/m3]\n" + "S" * 90 + ",sand,18,20\nClay,clay,18,19\n"
    )
    found = read_ground([path], Project())
    assert any("at most 80 characters" in p.message for p in found.problems)
    assert [s.name for s in found.soils] == ["Clay"]


def test_a_column_for_each_test(tmp_path: Path, demo: Project) -> None:
    text = "Hole;Depth [m];SPT;cu [kN/m2];w [%];Bulk density [Mg/m3];qc [MN/m2]\nBH1;1,5;9;;22;1,95;\n;2,5;;42;-;;\nBH2;3;14;;;;6,2\n"
    found = read_ground(write(tmp_path, lab=text), demo)
    assert found.problems == ()
    tests = {h.name: [(t.kind, t.depth, round(t.value, 6)) for t in h.tests] for h in found.boreholes}
    assert tests["BH1"] == [
        ("SPT N", 1.5, 9.0),
        ("w", 1.5, 22.0),
        ("gamma", 1.5, round(1.95 * 9.80665, 6)),
        ("cu", 2.5, 42.0),
    ]
    assert tests["BH2"] == [("SPT N", 3.0, 14.0), ("CPT qc", 3.0, 6.2)]


def test_what_is_wrong_in_such_a_table_stands_at_its_column(tmp_path: Path, demo: Project) -> None:
    found = read_ground(write(tmp_path, lab="Hole,Depth,SPT,w\nBH1,1,many,20\nBH1,,4,\n"), demo)
    assert [(p.place, p.message) for p in found.problems] == [
        ("lab.csv row 2, column 'SPT'", "'many' is not a number; type one such as 2.4: it is left out"),
        ("lab.csv row 3, column 'SPT'", "a test needs a borehole and a depth: it is left out"),
    ]


def test_tests_under_other_names_in_other_encodings(tmp_path: Path, demo: Project) -> None:
    path = tmp_path / "t.csv"
    path.write_bytes(
        "Bohrloch;Test;Depth;Value;Unit\n".replace("Bohrloch", "Borehole").encode("cp1252")
        + "BH1;SPT;2;11;\nBH1;φ;2;31;°\n".replace("φ", "phi").encode("cp1252")
    )
    found = read_ground([path], demo)
    assert [(t.kind, t.value) for t in found.boreholes[0].tests] == [("SPT N", 11.0), ("phi", 31.0)]


def test_a_sounding_and_what_is_left_out_go_round(tmp_path: Path, demo: Project) -> None:
    tests = (
        GroundTest(kind="CPT qc", depth=1.0, value=3.0),
        GroundTest(kind="CPT qc", depth=2.0, value=30.0, left_out="a cobble"),
    )
    sounding = Borehole(name="C1", x=1.0, y=2.0, ground_level=3.0, tests=tests)
    ground = demo.ground.replaced(boreholes=(*demo.ground.boreholes, sounding), cone_area_ratio=0.75)
    project = demo.replaced(ground=ground)
    paths = write_ground(project, tmp_path / "g.xlsx")
    again = proposed(Project(), read_ground(paths, Project())).ground
    assert again.boreholes[-1] == sounding
    assert again.cone_area_ratio == 0.75
