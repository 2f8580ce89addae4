"""Labels never lie on each other: on the examples, on random plans, on every kind of page, and on labels thrown at
random."""

import math
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtWidgets import QApplication

from korbent.app.qt_page import SCREEN
from korbent.app.style import load_fonts
from korbent.core.evaluate import evaluate
from korbent.core.model import Project, edited
from korbent.demo import coombe, hollin, lindmere, redstem
from korbent.drawing.logs import logs_drawing
from korbent.drawing.painting import ROOMY, Measure, box_of, fitted, written_of
from korbent.drawing.placing import TOUCH_X, TOUCH_Y, arranged
from korbent.drawing.plan import plan_drawing
from korbent.drawing.primitives import Dimension, Drawing, Leader, Placement, Spot, Text
from korbent.files.svg_page import svg_text
from tests.invariants.plans import random_project

PAGES = ((375, 240), (520, 330), (1200, 700))
EXAMPLES = {"lindmere": lindmere, "redstem": redstem, "coombe": coombe, "hollin": hollin}


@pytest.fixture(autouse=True)
def app(qapp: QApplication) -> None:
    """Texts have widths only where there is an application."""
    load_fonts()


def written(
    measure: Measure, drawing: Drawing, place: Placement
) -> list[tuple[str, tuple[float, float, float, float]]]:
    """All that is written, with its box."""
    found = []
    for s in drawing.shapes:
        if isinstance(s, Dimension):
            text, (a, b) = written_of(s, place), (place(p) for p in s.line)
            if text.anchor == "middle" and measure.width_of(text.text, text.size + 1, text.bold) > ROOMY * math.dist(
                a, b
            ):
                continue
        if isinstance(s, Text | Dimension | Leader) and s.text:
            found.append((s.text, box_of(measure, s, place)))
    return found


def clashes(measure: Measure, drawing: Drawing, place: Placement) -> list[tuple[str, str]]:
    """Pairs of texts that lie on each other; dimensions among themselves are left out, they have their places."""
    boxes = written(measure, drawing, place)
    fixed = {s.text for s in drawing.shapes if isinstance(s, Dimension | Leader)}
    px, found = measure.px, []
    for i, (one, a) in enumerate(boxes):
        for other, b in boxes[:i]:
            wide = min(a[2], b[2]) - max(a[0], b[0])
            high = min(a[3], b[3]) - max(a[1], b[1])
            if wide > 2.01 * TOUCH_X * px and high > 2.01 * TOUCH_Y * px and not (one in fixed and other in fixed):
                found.append((one, other))
    return found


def outside(drawing: Drawing, place: Placement, page: tuple[int, int]) -> list[str]:
    return [
        t
        for t, (a, b, c, d) in written(SCREEN, drawing, place)
        if t not in {s.text for s in drawing.shapes if isinstance(s, Dimension | Leader)}
        and (a < -0.5 or b < -0.5 or c > page[0] + 0.5 or d > page[1] + 0.5)
    ]


def looked_at(drawing: Drawing, page: tuple[int, int]) -> Drawing:
    place = fitted(SCREEN, drawing, *page)
    found = arranged(SCREEN, drawing, place, page)
    assert not clashes(SCREEN, found, place)
    assert not outside(found, place, page)
    return found


@pytest.mark.long
@pytest.mark.parametrize("name", EXAMPLES)
def test_plans_and_logs_of_the_examples(name: str) -> None:
    project = EXAMPLES[name]()
    results = evaluate(project)
    for page in PAGES:
        for pad in project.pads:
            drawing = plan_drawing(project, results, pad.name)
            found = looked_at(drawing, page)
            names = set(found.texts)
            assert pad.name in names  # the selected one is always named
            if page != PAGES[0]:
                assert {p.name for p in project.pads} <= names
        looked_at(logs_drawing(project), page)


@pytest.mark.long
@pytest.mark.parametrize("seed", range(10))
def test_random_plans(seed: int) -> None:
    for k in range(5):
        project = random_project(5 * seed + k)
        results = evaluate(project)
        for by in ("worst", "load"):
            drawing = plan_drawing(project, results, project.pads[0].name, by)
            for page in PAGES[:2]:
                looked_at(drawing, page)


def test_where_nothing_clashes_nothing_is_made_anew() -> None:
    drawing = Drawing((Text((0, 0), "one"), Text((5, 5), "two")), (0, 0, 10, 10))
    place = fitted(SCREEN, drawing, 400, 400)
    assert arranged(SCREEN, drawing, place, (400, 400)) is drawing


def test_one_gives_way_and_comes_back_when_there_is_room() -> None:
    texts = tuple(Text((5 + 0.1 * k, 5), f"label {k}", spots=()) for k in range(12))
    drawing = Drawing(texts, (0, 0, 10, 10))
    place = fitted(SCREEN, drawing, 300, 300)
    found = arranged(SCREEN, drawing, place, (300, 300))
    assert not clashes(SCREEN, found, place)
    assert 3 <= len(found.texts) < 12  # what has no room is left out
    assert found.texts[0] == "label 0"
    assert found.shapes[0] is texts[0]  # the first one stays
    near = Placement(place.scale * 40, place.left, place.top, place.x0, place.y1)
    assert arranged(SCREEN, drawing, near) is drawing  # zoomed in, all are there


def test_what_is_fixed_and_what_is_bold_stays() -> None:
    tick = Text((5, 5), "1.50", fixed=True)
    name = Text((5, 5), "P11", bold=True, spots=(Spot((5, 5), "right", -4, 0),))
    soft = Text((5, 5), "soft", spots=(Spot((5, 5), "middle", 0, 30),))
    drawing = Drawing((soft, name, tick), (0, 0, 10, 10))
    place = fitted(SCREEN, drawing, 300, 300)
    found = {s.text: s for s in arranged(SCREEN, drawing, place, (300, 300)).shapes if isinstance(s, Text)}
    assert found["1.50"] is tick
    assert (found["P11"].anchor, found["P11"].dx) == ("right", -4)
    assert (found["soft"].anchor, found["soft"].dy) == ("middle", 30)


def test_a_text_longer_than_the_page_is_made_to_fit() -> None:
    drawing = Drawing(
        (Text((0, 0), "there is nothing to be seen here for a long reason " * 3, 12, anchor="middle"),),
        (-1, -1, 1, 1),
    )
    place = fitted(SCREEN, drawing, 260, 200)
    found = arranged(SCREEN, drawing, place, (260, 200))
    assert not outside(found, place, (260, 200))


label = st.tuples(
    st.floats(0, 10),
    st.floats(0, 10),
    st.integers(1, 24),
    st.sampled_from(["left", "middle", "right"]),
    st.booleans(),
    st.booleans(),
)


@given(st.lists(label, min_size=2, max_size=40), st.integers(160, 900))
def test_labels_thrown_at_random(thrown: list[tuple[float, float, int, str, bool, bool]], wide: int) -> None:
    texts = tuple(
        Text((x, y), "m" * n, 11, anchor=anchor, bold=bold, fixed=fixed)  # type: ignore[arg-type]
        for x, y, n, anchor, bold, fixed in thrown
    )
    drawing = Drawing(texts, (0, 0, 10, 10))
    found = looked_at(drawing, (wide, 300))
    assert found.texts  # the first one is never left out
    kept = {id(s) for s in found.shapes}
    # what is fixed is where it was, or left out, unless it had to be moved into the page
    place = fitted(SCREEN, drawing, wide, 300)
    for s in texts:
        a, b, c, d = box_of(SCREEN, s, place)
        inside = a >= 2 and b >= 2 and c <= wide - 2 and d <= 298
        if s.fixed and inside and s.text in found.texts and sum(t.text == s.text for t in texts) == 1:
            assert id(s) in kept


def test_what_is_saved_is_arranged_too(demo: Project) -> None:
    results = evaluate(demo)
    svg = svg_text(plan_drawing(demo, results, "P11"), 375, 240)
    assert svg.count(">P11<") == 1
    chance = random.Random(1)
    many = Drawing(tuple(Text((chance.random(), chance.random()), f"t{k}", 12) for k in range(300)), (0, 0, 1, 1))
    assert svg_text(many, 200, 200).count("<text") < 300


def test_the_scale_bar_is_round_in_the_unit_that_is_shown(demo: Project) -> None:
    for project, unit in ((demo, " m"), (edited(demo, ("units",), "us"), " ft")):
        drawing = plan_drawing(project, evaluate(project))
        said = next(t for t in drawing.texts if t.endswith(unit) and t.split()[0].replace(".", "").isdigit())
        assert float(said.split()[0]) in (0.5, 1, 2, 5, 10, 20, 50, 100)


@pytest.mark.parametrize("name", EXAMPLES)
def test_names_in_a_log_stand_in_the_order_of_the_strata(name: str) -> None:
    project = EXAMPLES[name]()
    ground = project.ground
    described = {s.description: s.name for s in ground.soils if s.description}
    named = {s.name for s in ground.soils}
    page = (505, 375)
    drawing = logs_drawing(project, page[0] / page[1])
    place = fitted(SCREEN, drawing, *page)
    columns: dict[float, list[tuple[float, str]]] = {}
    for s in arranged(SCREEN, drawing, place, page).shapes:
        if isinstance(s, Text) and (s.text in named or s.text in described):
            columns.setdefault(round(s.at[0], 3), []).append((place(s.at)[1] + s.dy, s.text))
    holes = sorted(ground.boreholes, key=lambda h: (h.x, h.y))
    for hole, column in zip([h for h in holes if h.strata], (columns[x] for x in sorted(columns))):
        texts = [text for _, text in sorted(column)]
        order = iter([stratum.soil for stratum in hole.strata])
        assert all(text in order for text in texts if text in named), (hole.name, texts)
        for before, text in zip(["", *texts], texts):
            assert text in named or before == described[text], (hole.name, texts)
