"""AGS4 files: what comes in, what is left out and why, round trips, and files that are broken in every way."""

from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from korbent.core.model import Borehole, Ground, GroundTest, Oedometer, Project, Soil, Stratum, Water
from korbent.demo import lindmere
from korbent.files.ags4 import Ags4Error, ags4_text, read_ags4, tables_of, write_ags4
from korbent.files.ground_import import Proposal, differences_to, proposed
from korbent.files.ground_tables import read_ground, write_ground

EXAMPLES = Path(__file__).parents[2] / "examples"


def read(tmp_path: Path, text: str) -> Proposal:
    path = tmp_path / "x.ags"
    path.write_text(text, encoding="utf-8", newline="")
    return read_ags4(path)


def test_the_shipped_file_makes_the_ground_of_the_demo(demo: Project) -> None:
    proposal = read_ags4(EXAMPLES / "lindmere.ags")
    assert proposal.problems == ()
    ground = proposed(Project(), proposal).ground
    assert {h.name: h.strata for h in ground.boreholes} == {h.name: h.strata for h in demo.ground.boreholes}
    for mine, theirs in zip(ground.boreholes, demo.ground.boreholes):
        assert (mine.x, mine.y, mine.ground_level) == (theirs.x, theirs.y, theirs.ground_level)
        assert set(map(str, mine.tests)) >= set(map(str, theirs.tests))
        assert [o.points for o in mine.oedometers] == [o.points for o in theirs.oedometers]
    assert ground.water == demo.ground.water
    assert [s.name for s in ground.soils] == [s.name for s in demo.ground.soils]
    assert [s.pattern for s in ground.soils] == [s.pattern for s in demo.ground.soils]


def test_the_shipped_files_are_those_of_the_demo(tmp_path: Path) -> None:
    write_ags4(lindmere(), tmp_path / "x.ags")
    assert (tmp_path / "x.ags").read_bytes() == (EXAMPLES / "lindmere.ags").read_bytes()


def group(name: str, headings: str, units: str, *rows: str) -> str:
    def line(kind: str, cells: str) -> str:
        return ",".join(f'"{c}"' for c in (kind, *cells.split("|")))

    return "\r\n".join(
        [
            f'"GROUP","{name}"',
            line("HEADING", headings),
            line("UNIT", units),
            line("TYPE", units),
            *(line("DATA", r) for r in rows),
            "",
        ]
    )


LOCA = group("LOCA", "LOCA_ID|LOCA_NATE|LOCA_NATN|LOCA_GL", "|m|m|m", "B1|451210|312030|12.5", "B2|451260|312040|12.1")
GEOL = group(
    "GEOL",
    "LOCA_ID|GEOL_TOP|GEOL_BASE|GEOL_DESC|GEOL_LEG",
    "|m|m||",
    "B1|0|1.2|MADE GROUND: brick|101",
    "B1|1.2|4.0|Firm brown CLAY|201",
    "B2|0|3.0|Medium dense SAND|401",
)


def test_units_are_converted_and_far_coordinates_moved(tmp_path: Path) -> None:
    text = LOCA + GEOL + group("SCPT", "LOCA_ID|SCPT_DPTH|SCPT_RES|SCPT_FRES", "|cm|kPa|MPa", "B1|250|1800|0.042")
    text += group("LDEN", "LOCA_ID|SPEC_DPTH|LDEN_BDEN", "|m|Mg/m3", "B1|2.0|2.0")
    found = read(tmp_path, text)
    assert found.problems == ()
    b1 = found.boreholes[0]
    assert (b1.x, b1.y) == (10.0, 30.0)
    assert found.shift == (451200.0, 312000.0)
    tests = {t.kind: t for t in b1.tests}
    assert tests["CPT qc"].depth == pytest.approx(2.5)
    assert tests["CPT qc"].value == pytest.approx(1.8)
    assert tests["CPT fs"].value == pytest.approx(42.0)
    assert tests["gamma"].value == pytest.approx(2 * 9.80665)


def test_soils_take_pattern_and_first_values_from_their_description(tmp_path: Path) -> None:
    found = read(tmp_path, LOCA + GEOL)
    assert [s.pattern for s in found.soils] == ["made_ground", "clay", "sand"]
    clay = found.soils[1]
    assert clay.undrained_strength is not None
    assert "starter library" in clay.sources["undrained_strength"]


@pytest.mark.parametrize(
    ("text", "place", "why"),
    [
        (LOCA + GEOL.replace("4.0", "x"), "GEOL line 12, GEOL_BASE", "'x' is not a number"),
        (LOCA + GEOL.replace("4.0", "1.0"), "GEOL line", "not below its top"),
        (LOCA + GEOL.replace('"B2","0"', '"B9","0"'), "GEOL line", "belongs to the hole 'B9'"),
        (LOCA.replace("12.1", "") + GEOL, "LOCA line 6", "no ground level"),
        (LOCA.replace("312040", "") + GEOL, "LOCA line 6", "no coordinates"),
        (LOCA.replace("B2", "B1") + GEOL, "LOCA line 6", "a second time"),
        (
            LOCA + GEOL.replace("1.2|4.0", "1.2|4.0").replace('"1.2","4.0"', '"1.5","4.0"'),
            "GEOL line",
            "nothing is described",
        ),
        (LOCA + GEOL.replace('"1.2","4.0"', '"0.9","4.0"'), "GEOL line", "inside the one above"),
        (
            LOCA + GEOL + group("ISPT", "LOCA_ID|ISPT_TOP|ISPT_NVAL|ISPT_REP", "|m||", "B1|2||seating only"),
            "ISPT line",
            "'seating only' is no blow count",
        ),
        (LOCA + GEOL + group("ISPT", "LOCA_ID|ISPT_TOP|ISPT_NVAL", "|m|", "B1||12"), "ISPT line", "no depth"),
        (LOCA + GEOL + group("ISPT", "LOCA_ID|ISPT_TOP|ISPT_NVAL", "|m|", "B1|2|-4"), "ISPT line", "no blow count"),
        (LOCA + GEOL + group("IVAN", "LOCA_ID|IVAN_DPTH|IVAN_IVAN", "|m|m", "B1|2|40"), "IVAN line", "not a unit"),
        (LOCA + GEOL + LOCA, "LOCA line 18", "a second time"),
        (LOCA + GEOL + '"DATA","B1"\r\n', "GEOL line", "1 values for 5 headings"),
        (LOCA + GEOL + '"WHAT","B1"\r\n', "GEOL line", "begins with 'WHAT'"),
        (
            LOCA + GEOL + group("CONS", "LOCA_ID|CONS_INCF|CONS_INCE", "|kPa|", "B1|50|0.9", "B1|100|0.8"),
            "CONS",
            "no test in CONG",
        ),
        (LOCA.replace("LOCA_ID", "LOCA_XX") + GEOL, "LOCA", "no heading LOCA_ID"),
    ],
)
def test_what_is_wrong_is_listed_with_group_and_row(tmp_path: Path, text: str, place: str, why: str) -> None:
    problems = read(tmp_path, text).problems
    assert any(place in p.place and why in p.message for p in problems), problems


def test_no_ags_file_at_all(tmp_path: Path) -> None:
    with pytest.raises(Ags4Error, match="no group"):
        read(tmp_path, "hello\nworld\n")
    with pytest.raises(Ags4Error, match="cannot be read"):
        read_ags4(tmp_path / "missing.ags")
    (tmp_path / "b.ags").write_bytes(b"\x00\x01\x02" * 50)
    with pytest.raises(Ags4Error, match="no text file"):
        read_ags4(tmp_path / "b.ags")


names = st.text(alphabet="ABCDEFGHxyz0123456789 -", min_size=1, max_size=8).map(str.strip).filter(bool)
numbers = st.integers(1, 4000).map(lambda i: i / 100)


@st.composite
def grounds(draw: st.DrawFn) -> Ground:
    soils = draw(st.lists(names, min_size=1, max_size=4, unique_by=str.lower))
    holes = []
    for name in draw(st.lists(names, min_size=1, max_size=4, unique=True)):
        strata = tuple(
            Stratum(soil=s, thickness=draw(numbers))
            for s in draw(st.lists(st.sampled_from(soils), min_size=1, max_size=5))
        )
        end = sum(s.thickness for s in strata)
        kinds = draw(
            st.lists(
                st.tuples(
                    st.sampled_from(
                        ["SPT N", "cu", "w", "wL", "PI", "CPT qc", "CPT fs", "CPT u2", "mv", "cv", "gamma"]
                    ),
                    numbers,
                ),
                max_size=6,
                unique=True,
            )
        )
        places = dict.fromkeys((k, round(min(d, end), 2)) for k, d in kinds)
        tests = sorted(
            (
                GroundTest(
                    kind=k,
                    depth=d,
                    value=draw(numbers),
                    left_out=draw(st.sampled_from(["", "", "disturbed sample"])),
                    notes=draw(st.sampled_from([{}, {}, {"value": "read twice"}])),
                )
                for k, d in places
            ),
            key=lambda t: t.depth,
        )
        points = tuple((float(p), e / 1000) for p, e in zip((25, 50, 100), (900, 850, 700)))
        oedometers = (Oedometer(sample="U1", depth=1.5, void_ratio=0.95, points=points),) if draw(st.booleans()) else ()
        holes.append(
            Borehole(
                name=name,
                x=draw(numbers),
                y=draw(numbers),
                ground_level=draw(numbers),
                strata=strata,
                tests=tuple(tests),
                oedometers=oedometers,
            )
        )
    used = {s.soil for h in holes for s in h.strata}
    return Ground(
        soils=tuple(Soil(name=n, weight=18, weight_saturated=20, friction_angle=30.0) for n in soils if n in used),
        boreholes=tuple(holes),
        water=Water(low=0.5, normal=1.0, high=2.0),
    )


def key(ground: Ground) -> object:
    return [
        (
            h.name,
            h.x,
            h.y,
            h.ground_level,
            [(s.soil, round(s.thickness, 6)) for s in h.strata],
            sorted((t.kind, t.depth, t.value, t.left_out, t.notes.get("value", "")) for t in h.tests if t.kind != "e0"),
            [(o.depth, o.points) for o in h.oedometers],
        )
        for h in ground.boreholes
    ]


@pytest.mark.long
@given(grounds())
@settings(max_examples=15)
def test_round_trips_lose_nothing(tmp_path_factory: pytest.TempPathFactory, ground: Ground) -> None:
    """Project to AGS4 to project; from there to CSV and XLSX tables and back."""
    folder = tmp_path_factory.mktemp("trip")
    write_ags4(Project(ground=ground), folder / "a.ags")
    proposal = read_ags4(folder / "a.ags", shift=(0.0, 0.0))
    assert proposal.problems == ()
    back = proposed(Project(), proposal).ground
    assert key(back) == key(ground)
    assert back.water == ground.water
    for name in ("t.csv", "t.xlsx"):
        for units in ("metric", "us"):
            source = Project(ground=back, units=units)
            written = write_ground(source, folder / f"{units}-{name}")
            empty = Project(units=units)
            again = read_ground(written, empty)
            assert again.problems == ()
            ground_again = proposed(empty, again).ground
            if units == "metric":
                assert key(ground_again) == key(back)
                assert {s.name: s.replaced(sources={}) for s in ground_again.soils} == {
                    s.name: s.replaced(sources={}) for s in back.soils
                }
            else:
                for a, b in zip(ground_again.boreholes, back.boreholes):
                    assert a.x == pytest.approx(b.x, rel=1e-12)
                    assert [s.thickness for s in a.strata] == pytest.approx([s.thickness for s in b.strata], rel=1e-12)


def test_line_numbers_count_from_the_top_of_the_file() -> None:
    text = LOCA + "\r\n\r\n" + GEOL.replace("4.0", "x")
    tables, problems = tables_of(text)
    assert problems == []
    line = next(n for n, row in tables["GEOL"].rows if row["GEOL_BASE"] == "x")
    assert text.splitlines()[line - 1].startswith('"DATA","B1","1.2","x"')


def test_differences_name_what_changes(demo: Project) -> None:
    changed = demo.ground.boreholes[0].replaced(tests=())
    lines = differences_to(demo, Proposal(boreholes=(changed, demo.ground.boreholes[1])))
    assert lines == [
        f"BH1 replaced: 6 strata, {len(demo.ground.boreholes[0].tests)} tests become 6, 0",
        "BH2 stays as it is",
    ]


def test_quotation_marks_come_back_as_they_were(demo: Project, tmp_path: Path) -> None:
    """Also doubled ones in two columns of one row, which the writer of the package that reads the format halves."""
    hole = demo.ground.boreholes[0]
    said = [t.replaced(left_out='the "old" ""one""') for t in hole.tests[:2]]
    quoted = hole.replaced(name='BH ""1""', tests=tuple(said))
    write_ags4(demo.replaced(ground=demo.ground.replaced(boreholes=(quoted,))), tmp_path / "a.ags")
    (back,) = read_ags4(tmp_path / "a.ags", shift=(0.0, 0.0)).boreholes
    assert back.name == quoted.name
    assert [t.left_out for t in back.tests] == [t.left_out for t in quoted.tests]


def test_text_of_a_project_without_ground_has_no_holes() -> None:
    assert '"GROUP","LOCA"' not in ags4_text(Project())


def test_what_the_format_does_not_know_stays(demo: Project) -> None:
    """Reading the demo's own file into the demo changes nothing: readings, rigid ground and notes are kept."""
    first = demo.ground.boreholes[0].replaced(rigid_below=True, notes={"ground_level": "levelled twice"})
    project = demo.replaced(ground=demo.ground.replaced(boreholes=(first, *demo.ground.boreholes[1:])))
    proposal = read_ags4(EXAMPLES / "lindmere.ags")
    assert proposed(project, proposal).ground.boreholes == project.ground.boreholes
    assert [line for line in differences_to(project, proposal) if line.startswith("BH")] == [
        f"BH{i} stays as it is" for i in (1, 2, 3)
    ]
