"""The report: pages, selectable text, what must stand in it."""

from pathlib import Path

import pytest
from reportlab.pdfbase import pdfmetrics

from korbent.core.checks import State
from korbent.core.concrete.schedule import schedule_rows
from korbent.core.evaluate import evaluate
from korbent.core.explain.state import base_state
from korbent.core.explain.working import Working, working
from korbent.core.model import Acceptance, Project, Settings, edited
from korbent.core.model.plate import Plate, SubgradeZone
from korbent.demo import lindmere
from korbent.demo.starter import starter
from korbent.drawing.logs import logs_drawing
from korbent.drawing.plan import plan_drawing
from korbent.drawing.pressure import pressure_drawing
from korbent.drawing.primitives import Text
from korbent.drawing.reinforcement import from_above
from korbent.drawing.section import section_drawing
from korbent.files.pdf_page import REGULAR, register_fonts
from korbent.sheets.calculation.bases import worst_member
from korbent.sheets.catalogue import completed, usual_sets, with_set
from korbent.sheets.report import write_report
from korbent.sheets.types import kinds_built
from korbent.verification.pad import one_pad
from tests.core.test_rafts import raft, regions
from tests.sheets.pdf_text import texts_of


@pytest.fixture(scope="module")
def pages(demo: Project, tmp_path_factory: pytest.TempPathFactory) -> list[str]:
    path = tmp_path_factory.mktemp("report") / "r.pdf"
    count = write_report(demo, path)
    texts = texts_of(path)
    assert len(texts) == count
    return texts


def test_every_page_is_named_and_numbered(pages: list[str]) -> None:
    for i, text in enumerate(pages, 1):
        assert "Lindmere ferry terminal" in text
        assert "revision C" in text
        assert f"page {i} of {len(pages)}" in text


def test_one_page_per_type_with_the_ledger_of_its_worst_member(pages: list[str], demo: Project) -> None:
    results = evaluate(demo)
    for kind in kinds_built(demo):
        pad = worst_member(kind, results)
        found = [t for t in pages if f"Pad under {pad.load_point}," in t]
        assert len(found) == 1
        for check in results.pad(pad.name).checks:
            if check.state is not State.NOT_APPLICABLE:
                assert check.check.title in " ".join(found[0].split())
            if check.ratio is not None:
                assert f"{check.ratio:.2f}" in found[0]


def test_inputs_and_workings_are_printed(pages: list[str], demo: Project) -> None:
    text = "\n".join(pages)
    for soil in demo.ground.soils:
        assert soil.name in text
    assert "not designed" in text
    assert "Workings" in text
    assert "EN 1997-1" in text


@pytest.mark.long
def test_accepted_checks_are_printed_with_their_reason(tmp_path: Path) -> None:
    project = edited(one_pad(), ("settings", "presumed_pressure"), 205.0)
    ratio = evaluate(project).pads[0].check("presumed-pressure").ratio or 0
    accepted = (Acceptance(check="presumed-pressure", reason="peak in a corner of sound sand", ratio=round(ratio, 3)),)
    write_report(edited(project, ("pads", "P", "accepted"), accepted), tmp_path / "r.pdf")
    text = "".join(texts_of(tmp_path / "r.pdf"))
    assert "peak in a corner of sound sand" in text


@pytest.mark.long
@pytest.mark.parametrize("make", [Project, starter, one_pad])
def test_small_projects_print_too(make: object, tmp_path: Path) -> None:
    assert write_report(make(), tmp_path / "r.pdf") >= 2  # type: ignore[operator]


@pytest.mark.long
def test_us_units_are_printed(tmp_path: Path) -> None:
    write_report(edited(one_pad(), ("units",), "us"), tmp_path / "r.pdf")
    text = "".join(texts_of(tmp_path / "r.pdf"))
    assert "ksf" in text


def test_a_folder_that_is_not_there(demo: Project, tmp_path: Path) -> None:
    with pytest.raises(OSError, match="No such file"):
        write_report(one_pad(), tmp_path / "none" / "r.pdf")


def test_the_typeface_has_every_character_that_is_printed(demo: Project) -> None:
    """On the sheet there is no other typeface to fall back to: a missing character would print as a box."""
    register_fonts()
    known = set(pdfmetrics.getFont(REGULAR).face.charToGlyph)
    results = evaluate(demo)
    pad, result = demo.pad("P8"), results.pad("P8")
    check = result.check("presumed-pressure")
    state = base_state(demo, pad, check.question, check.situation)
    drawings = (
        logs_drawing(demo),
        plan_drawing(demo, results),
        pressure_drawing(demo, pad, state),
        section_drawing(demo, pad, state),
        from_above(demo, pad, result),
    )
    texts = [s.text for d in drawings for s in d.shapes if isinstance(s, Text)]
    for name in (c.check.id for c in result.checks):
        found = working(demo, pad, name)
        texts += [line.text() for line in found.lines()] if isinstance(found, Working) else [found.message]
    texts += [c.message + c.check.title + c.check.reference + c.check.unit for c in results.all_checks]
    texts += [str(f.title) for f in Settings.model_fields.values()]
    missing = {c for text in texts for c in text if ord(c) not in known and c != "\n"}
    assert not missing


def test_the_bars_are_printed_with_their_sum_where_they_are_ticked(demo: Project, tmp_path: Path) -> None:
    own = usual_sets(demo)[0]
    choices = tuple(c.replaced(on=c.key == "bar-list") for c in completed(own))
    write_report(with_set(demo, own.replaced(sheets=choices), own.name), tmp_path / "r.pdf")
    text = " ".join(" ".join(texts_of(tmp_path / "r.pdf")).split())
    rows = schedule_rows(demo)
    for row in rows[:-1]:
        assert str(row[7]) in text
    assert f"{rows[-1][9]:g}" in text


@pytest.mark.long
def test_straps_are_printed_with_their_bars_and_ratios(tmp_path: Path) -> None:
    whole = lindmere()
    project = whole.replaced(pads=(whole.pad("P7"), whole.pad("P8")))
    write_report(project, tmp_path / "r.pdf")
    pages = texts_of(tmp_path / "r.pdf")
    page = next(t for t in pages if t.lstrip().startswith("Straps") or "\nStraps\n" in t)
    ratio = evaluate(project).pad("P8").check("strap-top").ratio
    for text in ("S1", "P8", "P7", "4 no ø25", "ø10 at 200, 2 legs", f"{ratio:.2f}"):
        assert text in page


@pytest.mark.long
def test_what_a_raft_rests_on_and_has_in_regions_is_printed(tmp_path: Path) -> None:
    """Springs with a zone and a greatest pressure, openings, thicker parts, added bars and loads; the strata where it
    rests on them."""
    project = regions(raft(k=2e4, greatest=150.0))
    pad = project.pads[0]
    assert pad.plate is not None
    zone = SubgradeZone(x_from=0.0, x_to=4.6, y_from=-2.4, y_to=2.4, subgrade=9e3)

    def printed(plate: Plate) -> str:
        write_report(project.replaced(pads=(pad.replaced(plate=plate),)), tmp_path / "r.pdf")
        return " ".join("".join(texts_of(tmp_path / "r.pdf")).split())

    text = printed(pad.plate.replaced(zones=(zone,)))
    for words in (
        "rests on springs of 20000 kN/m³",
        "9000 kN/m³ in 0.00 to 4.60, −2.40 to 2.40 m",
        "the ground gives at most 150 kPa",
        "opening −2.80 to −1.20",
        "0.90 m thick in",
        "added top x ø16 at 150 in −1.00 to 1.50",
        "G 5.00 kPa on",
    ):
        assert words in text, words
    text = printed(pad.plate.replaced(ground="layers", zones=(zone,)))
    assert "rests on the strata themselves" in text
    assert "9000 kN/m³ in" not in text
