"""Three AGS4 files as they come: what is understood, what is kept with how it was taken, what is asked."""

from pathlib import Path

import pytest

from korbent.core.model import Borehole, GroundTest, Project
from korbent.files.ags4 import read_ags4
from korbent.files.ags4.form import tables_of
from korbent.files.ags4.tests import blows
from korbent.files.ground_import import Proposal, proposed

MESSY = Path(__file__).parent / "messy"


@pytest.fixture(scope="module")
def strata() -> Proposal:
    return read_ags4(MESSY / "strata.ags")


@pytest.fixture(scope="module")
def cones() -> Proposal:
    return read_ags4(MESSY / "cones.ags")


@pytest.fixture(scope="module")
def laboratory() -> Proposal:
    return read_ags4(MESSY / "laboratory.ags")


def hole(found: Proposal, name: str) -> Borehole:
    return next(h for h in found.boreholes if h.name == name)


def of_kind(found: Proposal, name: str, kind: str) -> list[GroundTest]:
    return [t for t in hole(found, name).tests if t.kind == kind]


def note(test: GroundTest) -> str:
    return test.notes.get("value", "")


@pytest.mark.parametrize("name", ["strata", "cones", "laboratory"])
def test_each_comes_into_a_project(name: str) -> None:
    found = read_ags4(MESSY / f"{name}.ags")
    project = proposed(Project(), found)
    assert {h.name for h in project.ground.boreholes} == {h.name for h in found.boreholes}


# ---------------------------------------------------------------- strata


def test_one_code_with_clay_and_sand_is_two_soils(strata: Proposal) -> None:
    assert [s.soil for s in hole(strata, "HC1").strata] == [
        "Made Ground",
        "Alluvium, clay",
        "Alluvium, sand",
        "Terrace Gravel",
    ]
    patterns = {s.name: s.pattern for s in strata.soils}
    assert (patterns["Alluvium, clay"], patterns["Alluvium, sand"]) == ("clay", "sand")
    assert any("Alluvium is described as clay and as sand" in r for r in strata.remarks)


def test_the_last_stratum_ends_at_the_final_depth(strata: Proposal) -> None:
    assert sum(s.thickness for s in hole(strata, "HC1").strata) == pytest.approx(12.0)


def test_a_gap_is_a_stratum_without_parameters(strata: Proposal) -> None:
    found = [(s.soil, s.thickness) for s in hole(strata, "HC2").strata]
    assert ("Not described", pytest.approx(0.9)) in found
    unknown = next(s for s in strata.soils if s.name == "Not described")
    assert (unknown.friction_angle, unknown.undrained_strength, unknown.modulus) == (None, None, None)
    assert any("between 3.7 and 4.6 m of HC2" in p.message for p in strata.problems)


def test_a_group_that_comes_again_gives_its_rows_in_its_own_order_of_headings(strata: Proposal) -> None:
    last = hole(strata, "HC3").strata[-1]
    assert (last.soil, last.thickness) == ("Alluvium, clay", pytest.approx(4.7))
    text = (MESSY / "strata.ags").read_bytes().decode("cp1252")
    lines = text.splitlines()
    number, row = tables_of(text)[0]["GEOL"].rows[-1]
    assert lines[number - 1].startswith('"DATA","HC3","1.30"')
    assert row["GEOL_DESC"] == "Soft CLAY, 30° fissures"


def test_two_systems_of_coordinates_and_levels_above_a_datum(strata: Proposal) -> None:
    at = {h.name: (h.x, h.y, h.ground_level) for h in strata.boreholes}
    # HC3 has national ones only: brought over by the one that has both
    assert at == {"HC1": (40.0, 20.0, 4.2), "HC2": (60.0, 35.0, 4.05), "HC3": (52.0, 10.0, 3.9)}
    assert any("brought over by HC1, which has both" in r for r in strata.remarks)


def test_refusals_and_limits_are_kept_with_how_they_were_taken(strata: Proposal) -> None:
    assert [(t.value, note(t)) for t in of_kind(strata, "HC1", "SPT N")] == [
        (4.0, ""),
        (11.0, "reported as 2,2/2,3,3,3 N=11"),
        (50.0, "refusal: 50 blows for 75 mm"),
    ]
    assert [(t.value, note(t)) for t in of_kind(strata, "HC2", "SPT N")] == [
        (17.0, "more than 17"),
        (14.0, "reported as N=14"),
        (50.0, "refusal: 50 blows for 110 mm"),
    ]
    assert strata.site == {"spt_energy": 72.0}
    assert proposed(Project(), strata).ground.spt_energy == 72.0


def test_water_that_rose_after_a_strike(strata: Proposal) -> None:
    assert strata.water is not None
    assert (strata.water.low, strata.water.high) == (4.05 - 2.05, pytest.approx(4.20 - 1.90))


@pytest.mark.parametrize(
    ("text", "value", "says"),
    [
        ("22", 22, ""),
        ("N=22", 22, "N=22"),
        ("N 22", 22, "N 22"),
        (">17", 17, "more than 17"),
        ("50/75mm", 50, "refusal: 50 blows for 75 mm"),
        ("50/75 mm", 50, "75 mm"),
        ("N>50", 50, "more than 50"),
        ("50+", 50, "more than 50"),
        ("1,1/2,3,4,4 N=13", 13, "N=13"),
        ("25,0/50/10mm N=50/10mm", 50, "10 mm"),
        ("16.0", 16, ""),
    ],
)
def test_blow_counts_as_they_are_written(text: str, value: float, says: str) -> None:
    found = blows(text)
    assert found is not None
    assert found[0] == value
    assert says in found[1]
    assert bool(found[1]) == bool(says)


@pytest.mark.parametrize("text", ["", "refusal", "seating only", "-4", "12/13"])
def test_what_is_no_blow_count(text: str) -> None:
    assert blows(text) is None


# ---------------------------------------------------------------- cones and water readings


def test_a_sounding_without_strata_is_kept(cones: Proposal) -> None:
    assert hole(cones, "QC1").strata == ()
    assert {h.name for h in cones.boreholes} == {"QB1", "QC1", "QC2"}
    assert any(p.place == "LOCA QX" for p in cones.problems)
    # units of the British kind, and pore pressures
    assert [t.value for t in of_kind(cones, "QC1", "CPT qc")][:2] == [6.2, 7.9]
    assert [t.value for t in of_kind(cones, "QC1", "CPT u2")][:2] == [5.0, 12.0]


def test_one_message_for_one_cause(cones: Proposal) -> None:
    wrong = [p for p in cones.problems if "is not a number" in p.message]
    assert len(wrong) == 1
    assert "'x' is not a number (and 1 more in line" in wrong[0].message


def test_readings_in_units_of_their_own(cones: Proposal) -> None:
    assert cones.water is not None
    levels = (cones.water.low, cones.water.normal, cones.water.high)
    assert levels == pytest.approx((10.0 - 1.85, 10.0 - 1.72, 8.40))


def test_a_hand_penetrometer_reads_twice_the_strength(cones: Proposal) -> None:
    first = of_kind(cones, "QB1", "cu")[0]
    assert (first.value, note(first)) == (55.0, "hand penetrometer 110 kPa, half of it")
    assert 58.0 in [t.value for t in of_kind(cones, "QB1", "cu")]


# ---------------------------------------------------------------- laboratory


def test_stages_of_one_specimen_are_one_test(laboratory: Proposal) -> None:
    (one,) = of_kind(laboratory, "MF1", "cu")
    assert one.value == pytest.approx(87.0)
    assert note(one) == "mean of 3 stages: 82, 88, 91 kPa"
    (single,) = of_kind(laboratory, "MF2", "cu")
    assert (single.value, note(single)) == (76.0, "")


def test_angles_of_triaxial_and_shear_box(laboratory: Proposal) -> None:
    assert [t.value for n in ("MF1", "MF2") for t in of_kind(laboratory, n, "phi")] == [24.5, 23.0]


def test_hammers_of_several_energies(laboratory: Proposal) -> None:
    assert laboratory.site == {"spt_energy": 60.0}
    found = of_kind(laboratory, "MF2", "SPT N")
    assert [(t.value, note(t)) for t in found] == [(25.0, "N 20 at 75 % energy"), (24.0, "")]


def test_duplicates_are_kept_once_and_contradictions_asked(laboratory: Proposal) -> None:
    assert len(of_kind(laboratory, "MF1", "w")) == 1
    assert [t.value for t in of_kind(laboratory, "MF2", "w")] == [24.0, 31.0]
    asked = next(p for p in laboratory.problems if p.place == "MF2, w")
    assert "there are 24 and 31" in asked.message
    assert "leave out the one that does not count" in asked.message


def test_compressibility_of_the_step_at_the_stress_in_the_ground(laboratory: Proposal) -> None:
    steps = of_kind(laboratory, "MF1", "mv")
    assert [t.value for t in steps if not t.left_out] == [0.28]
    assert len(steps) == 4
    (rate,) = [t for t in of_kind(laboratory, "MF1", "cv") if not t.left_out]
    assert rate.value == pytest.approx(1.9 / 365.25, rel=1e-3)
    assert of_kind(laboratory, "MF1", "gamma")[0].value == pytest.approx(1.98 * 9.80665)


def test_a_hole_that_is_not_there_is_said_once(laboratory: Proposal) -> None:
    said = [p for p in laboratory.problems if "MF9" in p.message]
    assert len(said) == 1
    assert "and 7 more" in said[0].message


def test_water_that_differs_from_hole_to_hole_stays_with_the_hole(strata: Proposal) -> None:
    assert strata.water is not None
    assert {h.name: h.water for h in strata.boreholes} == {
        "HC1": pytest.approx(2.30),
        "HC2": pytest.approx(2.00),
        "HC3": None,
    }
