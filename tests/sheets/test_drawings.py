"""Drawings as sheets: papers and scales, what stands on them, that no text lies on another, over all examples."""

import math
from pathlib import Path

import ezdxf
import pytest
from shapely import Point as At
from shapely import Polygon as Area

from korbent.core.concrete.schedule import schedule, schedule_rows
from korbent.core.model import Project, edited
from korbent.core.model.plate import Plate
from korbent.core.model.sheets import Revision, SheetChoice
from korbent.core.units import feet_words
from korbent.demo import DEMOS, lindmere
from korbent.drawing.plan import edge_of, outline
from korbent.drawing.primitives import Dimension, Disc, Drawing, Line, Polygon, Shape, Text
from korbent.sheets.catalogue import KINDS, set_named
from korbent.sheets.composition import Sheet
from korbent.sheets.details import from_above, marks_of, rib_section, section, shape_sketch, strap_elevation
from korbent.sheets.drawings import MAKERS, Changed, drawings
from korbent.sheets.foundation_plan import foundation_plan, grid_lines, length_words
from korbent.sheets.paper import METRIC, PAPERS, US, fitting, scale_words
from korbent.sheets.to_dxf import outlines, write_dxf
from korbent.sheets.types import kinds_built
from korbent.verification.pad import one_pad
from tests.conftest import EXAMPLES
from tests.invariants.plans import random_project
from tests.invariants.whole import random_plan
from tests.sheets.looking import outside, overlaps, written
from tests.sheets.shapes import shapes_of

ALL = tuple(SheetChoice(key=key) for key in MAKERS)


def made(project: Project, *choices: SheetChoice, **more: object) -> tuple[Sheet, ...]:
    return drawings(project, set_named(project, ""), choices or ALL, **more)  # type: ignore[arg-type]


def texts(sheet: Sheet) -> str:
    return "\n".join(t for t, _ in written(sheet))


# ---------------------------------------------------------------- paper


def test_papers_have_their_sizes() -> None:
    """ISO 216: each half of the one before, 1 m2 the first, to the millimetre."""
    for k in range(4):
        big, small = PAPERS[f"A{k}"], PAPERS[f"A{k + 1}"]
        assert abs(big.height - small.width) <= 1.0
        assert abs(big.width / 2 - small.height) <= 1.0
    assert PAPERS["A0"].width * PAPERS["A0"].height == pytest.approx(1e6, rel=2e-3)
    assert PAPERS["Letter"].size(upright=True) == pytest.approx((215.9, 279.4))
    assert PAPERS["ANSI D"].size() == pytest.approx((34 * 25.4, 22 * 25.4))
    assert PAPERS["Arch D"].size() == pytest.approx((36 * 25.4, 24 * 25.4))


def test_scales_in_inches_are_what_they_say() -> None:
    for scale, text in US.items():
        left, right = text.split(" = ")
        number = sum(_fraction(part) for part in left.rstrip('"').split())
        feet = float(right.partition("'")[0])
        assert scale == pytest.approx(feet * 12 / number)


def _fraction(text: str) -> float:
    a, _, b = text.partition("/")
    return float(a) / float(b or 1)


@pytest.mark.parametrize("us", [False, True])
def test_the_scale_that_fits_is_the_largest(us: bool) -> None:
    known = US if us else METRIC
    for size in (0.8, 3.0, 17.0, 60.0):
        scale = fitting((size, size / 2), (400.0, 280.0), us)
        larger = [s for s in known if s < scale]
        assert 1000 * size / scale <= 400.0
        assert all(1000 * size / s > 400.0 or 500 * size / s > 280.0 for s in larger)
    assert scale_words(50.0, us) == "1:50"


def test_lengths_in_feet_and_inches() -> None:
    for value, text in (
        (1.524, "5'-0\""),
        (0.3048 * 3 + 0.0254 * 6.5, "3'-6 1/2\""),
        (0.0254 * 0.125, "0'-0 1/8\""),
        (0.3047, "1'-0\""),
    ):
        assert feet_words(value) == text
    assert length_words(8.1, one_pad().showing) == "8 100"


# ---------------------------------------------------------------- what every sheet holds to


@pytest.mark.parametrize("name", list(DEMOS))
def test_no_text_lies_on_another_or_leaves_the_paper(name: str) -> None:
    project = DEMOS[name]()
    found = made(project)
    drawn = set(MAKERS) - (set() if project.ground.boreholes else {"section", "logs"})
    assert {s.key for s in found} == drawn
    for sheet in found:
        assert not overlaps(sheet), (sheet.title, overlaps(sheet))
        assert not outside(sheet), (sheet.title, outside(sheet))


@pytest.mark.parametrize("seed", range(EXAMPLES // 5))
def test_on_random_plans_neither(seed: int) -> None:
    for project in (random_project(seed), random_plan(seed)):
        for sheet in made(project, SheetChoice(key="plan"), SheetChoice(key="details"), SheetChoice(key="whole")):
            assert not overlaps(sheet), (sheet.title, overlaps(sheet))
            assert not outside(sheet), (sheet.title, outside(sheet))


L_SHAPE = ((-1.5, -1.2), (1.5, -1.2), (1.5, 0.1), (0.2, 0.1), (0.2, 1.2), (-1.5, 1.2))


@pytest.mark.long
@pytest.mark.parametrize(
    "shape",
    [
        {"shape": "circle", "width": 2.4, "length": 2.4},
        {"shape": "ring", "width": 3.2, "length": 3.2, "hole": 0.4},
        {"shape": "trapezoid", "width": 3.0, "length": 1.4, "far_length": 2.4},
        {
            "kind": "raft",
            "plate": Plate(subgrade=2e4),
            "shape": "polygon",
            "width": 3.0,
            "length": 2.4,
            "outline": L_SHAPE,
        },
        {"rotation": 31.0, "width": 2.6, "length": 1.9, "offset_x": 0.2},
    ],
)
def test_every_shape_has_its_plan_details_and_files(shape: dict[str, object], tmp_path: Path) -> None:
    project = one_pad()
    pad = project.pads[0].replaced(**shape)
    project = project.replaced(pads=(pad,))
    found = made(project)
    for sheet in found:
        assert not overlaps(sheet), (sheet.title, overlaps(sheet))
        assert not outside(sheet)
    write_dxf(found, tmp_path / "d.dxf")
    assert not ezdxf.readfile(tmp_path / "d.dxf").audit().errors
    ring = outline(pad, project.load_point(pad.load_point))
    read = outlines(tmp_path / "d.dxf")[pad.name]
    assert max(math.dist(a, b) for a, b in zip(ring, read)) < 1e-3
    # bars of the drawing from above stay within the outline
    for line in (
        s
        for s in from_above(project, pad, "bottom", marks_of(project), 0.02).shapes
        if isinstance(s, Line) and s.key.startswith("bar:")
    ):
        under = Area([(x, y) for x, y in edge_of(pad)]).buffer(1e-6)
        assert all(under.contains(At(p)) for p in line.points)


@pytest.mark.long
@pytest.mark.parametrize("paper", ["A3", "A0", "Letter", "Arch C"])
def test_on_other_papers_neither(paper: str) -> None:
    for name, make in DEMOS.items():
        for sheet in made(
            make(), *(SheetChoice(key=k, paper=paper, upright=paper == "A3") for k in ("plan", "details", "schedule"))
        ):
            assert sheet.paper == paper
            assert not overlaps(sheet), (name, sheet.title, overlaps(sheet))
            assert not outside(sheet), (name, sheet.title, outside(sheet))


def test_every_sheet_is_numbered_and_titled(demo: Project) -> None:
    project = demo.replaced(
        revisions=(
            Revision(name="B", date="2026-11-01", reason="for the tender", by="RA"),
            Revision(name="C", reason="quay wall moved"),
        )
    )
    project = edited(project, ("title", "office"), "Ardle and Brook")
    found = made(project)
    for k, sheet in enumerate(found, 1):
        said = texts(sheet)
        assert (sheet.number, sheet.of) == (k, len(found))
        for part in (
            f"{k} of {len(found)}",
            "Lindmere ferry terminal",
            "Ardle and Brook",
            "2407",
            "for the tender",
            "quay wall moved",
            sheet.paper,
        ):
            assert part in said, (sheet.title, part)


def test_an_empty_project_draws_its_frame() -> None:
    found = made(Project())
    assert {s.key for s in found} == {"plan", "setting-out", "schedule", "whole"}
    for sheet in found:
        assert not overlaps(sheet)


def test_a_scale_that_is_asked_for_goes_on_to_further_sheets(demo: Project) -> None:
    first, *rest = made(demo, SheetChoice(key="plan", paper="A4", scale=50.0))
    assert first.scales == "1:50"
    assert len(rest) >= 3
    assert not any(outside(s) for s in (first, *rest))
    # every base and every dimension stands on one of them
    said = [t for s in (first, *rest) for t, _ in written(s)]
    for pad in demo.pads:
        assert any(t.startswith(f"{pad.name} · ") for t in said), pad.name
    x0, y0, x1, y1 = first.views[0].drawing.bounds
    for shape in first.views[0].drawing.shapes:
        for x, y in shape.points if isinstance(shape, Line | Polygon) else ():
            assert x0 - 1e-9 <= x <= x1 + 1e-9
            assert y0 - 1e-9 <= y <= y1 + 1e-9


# ---------------------------------------------------------------- the plan


def dimensions(drawn: Drawing) -> list[Dimension]:
    return [s for s in drawn.shapes if isinstance(s, Dimension)]


def test_the_plan_has_every_base_column_and_grid_line(demo: Project) -> None:
    drawn = foundation_plan(demo)
    for pad in demo.pads:
        ring = next(s for s in drawn.shapes if isinstance(s, Polygon) and s.key == f"pad:{pad.name}")
        assert ring.points == outline(pad, demo.load_point(pad.load_point))
    keys = {s.key for s in drawn.shapes if isinstance(s, Polygon)}
    assert {f"point:{p.name}" for p in demo.actions.load_points} <= keys
    assert {f"strap:{s.name}" for s in demo.straps} <= keys
    labels = {s.text for s in drawn.shapes if isinstance(s, Text)}
    by_x, by_y = grid_lines(demo)
    assert {line.label for line in (*by_x, *by_y)} <= labels


def test_lines_of_the_grid_are_called_as_their_columns_are(demo: Project) -> None:
    by_x, by_y = grid_lines(demo)
    for lines, axis in ((by_x, 0), (by_y, 1)):
        for line in lines:
            on_it = [
                p for p in demo.actions.load_points if abs((p.x, p.y)[axis] - (line.start, line.end)[0][axis]) < 0.01
            ]
            named = {p.name[0] if axis == 0 else p.name[1:] for p in on_it if len(p.name) == 2 and p.name[0] in "ABC"}
            assert named <= {line.label}


def test_chains_of_dimensions_add_up(demo: Project) -> None:
    """From line to line, and over all: the sum is the whole, to the millimetre."""
    for project in (demo, DEMOS["redstem"](), DEMOS["hollin"]()):
        found = dimensions(foundation_plan(project, hidden=("levels",)))
        for axis in (0, 1):
            chain = [d for d in found if d.away == 0.0 and abs(d.start[1 - axis] - d.end[1 - axis]) < 1e-9]
            levels: dict[float, list[Dimension]] = {}
            for d in chain:
                levels.setdefault(round(d.start[1 - axis], 6), []).append(d)
            if not levels:
                continue
            sums = {level: sum(d.length for d in some) for level, some in levels.items()}
            assert max(sums.values()) - min(sums.values()) < 1e-9
            if project.units == "metric":
                for some in levels.values():
                    said = sum(int(d.text.replace(" ", "")) for d in some)
                    assert abs(said - 1000 * sum(d.length for d in some)) <= 0.5 * len(some)


def test_every_dimension_says_what_it_measures(demo: Project) -> None:
    for d in dimensions(foundation_plan(demo)):
        assert int(d.text.lstrip("ø ").replace(" ", "")) == pytest.approx(1000 * d.length, abs=0.51)


def test_what_is_hidden_is_not_drawn(demo: Project) -> None:
    whole, bare = (
        foundation_plan(demo),
        foundation_plan(
            demo,
            hidden=("levels", "dimensions_to_grid", "edges_of_excavation", "boreholes", "boundaries_and_obstacles"),
        ),
    )
    assert not dimensions(bare)
    assert "fill" in whole.layers
    assert not {"fill", "site", "ground"} & set(bare.layers)
    assert not any("+2.10" in t for t in bare.texts)
    assert any("+2.10" in t for t in whole.texts)


def test_a_cloud_goes_around_what_changed(demo: Project) -> None:
    drawn = foundation_plan(demo, changed=("P7",), triangle="D", scale=100.0)
    cloud = next(s for s in drawn.shapes if isinstance(s, Line) and s.key == "cloud")
    ring = outline(demo.pad("P7"), demo.load_point(demo.pad("P7").load_point))
    xs, ys = [x for x, _ in cloud.points], [y for _, y in cloud.points]
    assert min(xs) < min(x for x, _ in ring)
    assert max(xs) > max(x for x, _ in ring)
    assert min(ys) < min(y for _, y in ring)
    assert max(ys) > max(y for _, y in ring)
    assert math.dist(cloud.points[0], cloud.points[-1]) < 1e-6
    assert any(s.text == "D" and s.layer == "changes" for s in drawn.shapes if isinstance(s, Text))
    sheet = made(demo, SheetChoice(key="plan"), changed=Changed(("P7", "P1"), "D"))[0]
    assert "D: P7, P1" in texts(sheet)


# ---------------------------------------------------------------- details and bars


@pytest.mark.parametrize("name", list(DEMOS))
def test_labels_of_bars_are_those_of_the_schedule(name: str) -> None:
    """``n ø - spacing - mark``: the number and the mark are the schedule's, in the drawing from above and in the
    section."""
    project = DEMOS[name]()
    marks = marks_of(project)
    known = {bar.mark: bar for bar in schedule(project)}
    for pad in project.pads:
        if project.settings_of(pad).base_concrete != "reinforced":
            continue
        for axis in ("x", "y"):
            place = f"bottom {axis}"
            bars = pad.reinforcement.bars(f"bottom_{axis}")
            if bars is None or bars.fabric:
                continue
            count = marks.count(pad.name, place)
            mark = marks.word(pad.name, place)
            own = [known[m] for m in mark.split("–")]
            assert count == sum(n for b, n in marks.of(pad.name, place)) > 0
            assert all(abs(b.diameter - bars.diameter) < 1e-9 for b in own)
            for drawn in (
                from_above(project, pad, "bottom", marks, 0.025),
                section(project, pad, axis, marks, 0.025),
            ):
                assert any(t.startswith(f"{count} ") and t.endswith(f"- {mark}") for t in drawn.texts), (
                    pad.name,
                    place,
                )


def test_sections_show_bars_within_the_concrete_and_its_cover(demo: Project) -> None:
    marks = marks_of(demo)
    for pad in demo.pads:
        cover = demo.settings_of(pad).concrete_cover
        for axis, size in (("x", pad.width), ("y", pad.extent)):
            drawn = section(demo, pad, axis, marks, 0.02)
            for line in (s for s in drawn.shapes if isinstance(s, Line) and s.key.startswith("bar:bottom")):
                assert min(y for _, y in line.points) >= cover - 1e-9
                assert max(y for _, y in line.points) <= pad.thickness - cover + 1e-9
                assert max(abs(x) for x, _ in line.points) <= size / 2 - cover + 1e-9


def test_ribs_are_cut_across_with_their_bars() -> None:
    project = DEMOS["hollin"]()
    pad, marks = project.pads[0], marks_of(project)
    assert pad.plate is not None
    known = {bar.mark: bar for bar in schedule(project)}
    for rib in pad.plate.ribs:
        drawn = rib_section(project, pad, rib, marks, 0.025)
        assert "450 × 850" in drawn.texts
        for face, bars in (("top", rib.top), ("bottom", rib.bottom)):
            mark = marks.word(pad.name, f"rib {rib.name} {face}")
            assert known[mark].diameter == bars.diameter
            assert f"{face} {bars.number} ø{1000 * bars.diameter:g} - {mark}" in drawn.texts
        discs = [s for s in drawn.shapes if isinstance(s, Disc)]
        assert len(discs) == (rib.top.number or 0) + (rib.bottom.number or 0)
    above = from_above(project, pad, "top", marks, 0.05)
    assert {r.name for r in pad.plate.ribs} <= set(above.texts)


def test_a_strap_is_drawn_from_column_to_column() -> None:
    demo = lindmere()
    strap = demo.straps[0]
    drawn = strap_elevation(demo, strap, marks_of(demo), 0.025)
    a, b = (demo.load_point(demo.pad(n).load_point) for n in (strap.edge, strap.inner))
    assert any(d.length == pytest.approx(math.hypot(b.x - a.x, b.y - a.y)) for d in dimensions(drawn))
    assert any("4 ø25" in t for t in drawn.texts)


@pytest.mark.parametrize("name", list(DEMOS))
def test_the_schedule_has_every_mark_and_its_sum(name: str) -> None:
    project = DEMOS[name]()
    sheets = list(made(project, SheetChoice(key="schedule")))
    said = [t for s in sheets for t, _ in written(s)]
    rows = schedule_rows(project)
    for row in rows[:-1]:
        assert str(row[0]) in said
        assert f"{float(row[9]):.1f}" in said  # type: ignore[arg-type]
    assert f"{float(rows[-1][9]):.1f}" in said  # type: ignore[arg-type]
    by_diameter: dict[float, float] = {}
    for bar in schedule(project):
        by_diameter[bar.diameter] = by_diameter.get(bar.diameter, 0.0) + bar.weight
    if project.units == "metric":
        assert all(f"{w:.1f}" in said for w in by_diameter.values())


def test_sketches_of_bent_bars_have_their_legs() -> None:
    demo = lindmere()
    seen = set()
    for bar in schedule(demo):
        drawn = shape_sketch(demo, bar)
        seen.add(bar.shape)
        legs = {"00": (bar.b,), "11": (bar.a, bar.b), "21": (bar.a, bar.b, bar.c), "51": (bar.a, bar.b)}.get(
            bar.shape, ()
        )
        for leg in legs:
            assert length_words(leg, demo.showing) in drawn.texts
    assert {"00", "11", "21", "51"} <= seen


def test_every_kind_of_sheet_says_what_it_is() -> None:
    assert all(kind.says and kind.title for kind in KINDS.values())


def seen(sheets: tuple[Sheet, ...], key: str) -> list[Shape]:
    return [s for sheet in sheets for s in shapes_of(sheet) if getattr(s, "key", "") == key]


@pytest.mark.parametrize("key", ["section", "whole"])
def test_what_has_changed_has_a_cloud_in_sections_and_the_whole(key: str) -> None:
    """Around the bases that are seen in it, and around no other."""
    demo = lindmere()
    plain = made(demo, SheetChoice(key=key))
    assert not seen(plain, "cloud")
    polygons = [s for s in shapes_of(plain[0]) if isinstance(s, Polygon)]
    drawn = {s.key.removeprefix("pad:") for s in polygons if s.key.startswith("pad:")}
    assert drawn
    name = sorted(drawn)[0]
    marked = made(demo, SheetChoice(key=key), changed=Changed((name, "nowhere"), "D"))
    (cloud,) = seen(marked, "cloud")
    assert isinstance(cloud, Line)
    own = [p for s in polygons if s.key == f"pad:{name}" for p in s.points]
    for k in (0, 1):
        assert min(p[k] for p in cloud.points) < min(p[k] for p in own)
        assert max(p[k] for p in cloud.points) > max(p[k] for p in own)
    assert any(isinstance(s, Text) and s.text == "D" for s in shapes_of(marked[0]))
    # nothing else is another
    assert list(shapes_of(plain[0])) == [s for s in shapes_of(marked[0]) if s.layer != "changes"]


@pytest.mark.parametrize("key", ["setting-out", "schedule"])
def test_what_has_changed_has_a_triangle_in_tables(demo: Project, key: str) -> None:
    """One for each row of a type, or of bars, of a base that has changed."""
    plain = made(demo, SheetChoice(key=key))
    assert not seen(plain, "revision")
    marked = made(demo, SheetChoice(key=key), changed=Changed(("P7",), "D"))
    if key == "setting-out":
        rows = sum(any(p.name == "P7" for p in kind.members) for kind in kinds_built(demo))
    else:
        rows = sum(any(base == "P7" for base, _, _ in bar.where) for bar in schedule(demo))
    assert rows
    assert len(seen(marked, "revision")) == rows
    heads = [s.text for sheet in marked for s in shapes_of(sheet) if isinstance(s, Text)]
    assert "Rev." in heads
    assert made(demo, SheetChoice(key=key), changed=Changed(("nowhere",), "D")) == plain
