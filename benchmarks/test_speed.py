"""Speed, as figures and as ratios within one run. Run: .venv/bin/python -m pytest benchmarks --benchmark-enable

Not part of the test run: nothing here asserts a time.
"""

import itertools
import os
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
sys.path.insert(0, str(Path(__file__).parent))

from plans import large, plan_of

from korbent.core.contact.rectangle import linear_no_tension
from korbent.core.evaluate import effects as effects_kept
from korbent.core.evaluate import effects_of, evaluate, outcomes_for, road
from korbent.core.geometry import table
from korbent.core.model import Pad, edited
from korbent.core.working import SILENT, Recording, Silent

FIFTY = plan_of(50)


def sixty_by_sixty(pad: Pad) -> np.ndarray:
    """3600 sizes of a pad."""
    grid = np.repeat(table(pad), 3600, axis=0)
    sides = np.meshgrid(np.linspace(1.5, 4, 60), np.linspace(1.5, 4, 60))
    grid[:, 0], grid[:, 1] = (v.ravel() for v in sides)
    return grid


def widths() -> Callable[[], float]:
    """Widths that never repeat, so that nothing is found in a cache."""
    counter = itertools.count()
    return lambda: 2.0 + next(counter) * 1e-6


def test_one_edit_to_all_results_50_pads_14_combinations(benchmark: object) -> None:
    evaluate(FIFTY)
    width = widths()
    benchmark(lambda: evaluate(edited(FIFTY, ("pads", "P25", "width"), width())))  # type: ignore[operator]


def test_step_effects_of_one_pad(benchmark: object) -> None:
    def effects() -> None:
        effects_kept._effects.clear()
        effects_of(FIFTY, FIFTY.pad("P25"))

    benchmark(effects)  # type: ignore[operator]


def test_all_50_pads_from_scratch(benchmark: object) -> None:
    def scratch() -> None:
        road._known.clear()
        evaluate(FIFTY)

    benchmark(scratch)  # type: ignore[operator]
    checks = sum(c.ratio is not None for p in evaluate(FIFTY).pads for c in p.checks)
    pad = FIFTY.pads[0]
    evaluations = sum(o.ratio.size for o in outcomes_for(FIFTY, pad, table(pad))) * len(FIFTY.pads)
    median = benchmark.stats.stats.median  # type: ignore[attr-defined]
    print(f"\n{checks} checks, {evaluations} check evaluations: {median / evaluations * 1e6:.1f} us each")


def test_sixty_by_sixty_sizes_of_one_pad(benchmark: object) -> None:
    pad = FIFTY.pads[6]
    grid = sixty_by_sixty(pad)
    benchmark.pedantic(lambda: outcomes_for(FIFTY, pad, grid), rounds=2)  # type: ignore[attr-defined]


def test_ten_thousand_two_way_bases(benchmark: object) -> None:
    rng = np.random.default_rng(3)
    u, v = rng.uniform(-0.495, 0.495, (2, 10_000))
    one = np.ones(10_000)
    benchmark(lambda: linear_no_tension(one, -v, u, one, one))  # type: ignore[operator]


def test_cost_of_the_silent_recorder(benchmark: object) -> None:
    """The time of all silent calls of one pad, over the time of the pad."""
    pad = FIFTY.pads[6]
    calls = 0

    def counting(*_: object, **__: object) -> None:
        nonlocal calls
        calls += 1

    with pytest.MonkeyPatch.context() as patch:
        for name in ("given", "step", "listed"):
            patch.setattr(Silent, name, counting)
        outcomes_for(FIFTY, pad, table(pad), SILENT)
    benchmark(lambda: outcomes_for(FIFTY, pad, table(pad), SILENT))  # type: ignore[operator]
    start = time.perf_counter()
    for _ in range(100 * calls):
        SILENT.step("symbol", "a*b", 1.0, "kN", reference="reference", note="note")
    silent = (time.perf_counter() - start) / 100
    share = silent / benchmark.stats.stats.median  # type: ignore[attr-defined]
    print(f"\n{calls} calls, {silent * 1e6:.0f} us: {100 * share:.1f} % of one pad")


def test_recording_against_silent(benchmark: object) -> None:
    pad = FIFTY.pads[6]
    benchmark(lambda: outcomes_for(FIFTY, pad, table(pad), Recording()))  # type: ignore[operator]


def test_one_edit_to_pixels(benchmark: object) -> None:
    """A step of the width until ledger, plan, section, strip and step effects are painted."""
    from korbent.app.main import application
    from korbent.app.session import Session
    from korbent.app.window import MainWindow

    app = application()
    window = MainWindow(Session(FIFTY))
    window.resize(1280, 800)
    window.show()
    app.processEvents()
    sign = itertools.cycle((1e-4, 2e-4, -3e-4, 5e-4))

    def step() -> None:
        window.session.change_by("width", next(sign))
        app.processEvents()  # paints
        app.processEvents()  # step effects, painted

    benchmark(step)  # type: ignore[operator]
    window.session.saved = window.session.project
    window.close()


BARE = """
import sys
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication, QMainWindow
app = QApplication(sys.argv)
window = QMainWindow()
window.resize(1280, 800)
window.show()
QTimer.singleShot(0, app.quit)
app.exec()
"""

_STARTED = """
import os, runpy, sys
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication
stay = QApplication.exec
def look():
    from korbent.app.window import MainWindow
    window = next(w for w in QApplication.topLevelWidgets() if isinstance(w, MainWindow))
    if {there}:
        window.repaint()
        os._exit(0)
def until(*_):
    timer = QTimer(interval=5)
    timer.timeout.connect(look)
    timer.start()
    look()
    return stay()
QApplication.exec = until
sys.argv = ["korbent", "demo"]
runpy.run_module("korbent", run_name="__main__")
"""
KORBENT = _STARTED.format(there="window.isVisible()")
"""``korbent demo`` to its window: the project follows, computed beside it."""
RESULTS = _STARTED.format(there="window.session.project.pads and window.session._untold is None")
"""To all results on the screen."""


@pytest.mark.parametrize(
    "script",
    [BARE, KORBENT, RESULTS],
    ids=["bare Qt window", "Korbent's window", "the demo with its results"],
)
def test_cold_start_to_a_usable_window(benchmark: object, script: str) -> None:
    environment = os.environ | {"PYTHONPATH": os.pathsep.join(sys.path)}
    benchmark.pedantic(  # type: ignore[attr-defined]
        lambda: subprocess.run([sys.executable, "-c", script], check=True, env=environment, capture_output=True),
        rounds=5,
        warmup_rounds=1,
    )


def _large_window() -> object:
    from PySide6.QtWidgets import QApplication

    from korbent.app.session import Session
    from korbent.app.style import load_fonts
    from korbent.app.window import MainWindow

    _ = QApplication.instance() or QApplication([])
    load_fonts()
    window = MainWindow(Session(large()))
    window.resize(1280, 800)
    window.show()
    return window


@pytest.mark.parametrize("stop", [0, 2], ids=["100 logs", "500 columns"])
def test_a_frame_while_panning_a_large_drawing(benchmark: object, stop: int) -> None:
    from PySide6.QtCore import QPointF
    from PySide6.QtWidgets import QApplication

    window = _large_window()
    window.go_to(stop)  # type: ignore[attr-defined]
    view = window.stop.views[0]  # type: ignore[attr-defined]
    view.zoom_by(2.0, QPointF(200, 150))
    QApplication.processEvents()

    def frame() -> None:
        view._shift += QPointF(1, 1)
        view.grab()

    benchmark(frame)  # type: ignore[operator]


@pytest.mark.parametrize(
    "path",
    [
        ("actions", "load_points", "K250", "loads", "C3", "V"),
        ("ground", "boreholes", "B50", "strata", 2, "thickness"),
    ],
    ids=["a load", "a thickness"],
)
def test_an_edit_of_a_large_project_to_pixels(benchmark: object, path: tuple[str | int, ...]) -> None:
    from PySide6.QtWidgets import QApplication

    window = _large_window()
    window.go_to(1 if path[0] == "actions" else 0)  # type: ignore[attr-defined]
    values = itertools.count()

    def edit() -> None:
        window.session.edit(path, 1.5 + 1e-4 * next(values))  # type: ignore[attr-defined]
        QApplication.processEvents()

    benchmark(edit)  # type: ignore[operator]
    window.session.saved = window.session.project  # type: ignore[attr-defined]


def test_sizes_proposed_for_200_pads(benchmark: object) -> None:
    from korbent.core.sizing.propose import proposals

    project = plan_of(200)
    found = benchmark.pedantic(lambda: proposals(project, by_type=False), rounds=1)  # type: ignore[attr-defined]
    print(f"\n{sum(p.evaluated for p in found)} sizes looked at for {len(found)} pads")


def test_bearing_and_stability_of_sixty_by_sixty_sizes(benchmark: object) -> None:
    """Only the families that the speed goal of the map names, in one vectorised call."""
    from korbent.core.bearing.checks import level_checks, resistance_checks, service_checks
    from korbent.core.bench import bench_for
    from korbent.core.stability.checks import overturning_checks, sliding_checks, uplift_checks

    pad = FIFTY.pads[6]
    grid = sixty_by_sixty(pad)
    families = (
        service_checks,
        resistance_checks,
        level_checks,
        sliding_checks,
        overturning_checks,
        uplift_checks,
    )

    def run() -> None:
        bench = bench_for(FIFTY, (pad,), np.zeros(3600, dtype=int), grid)
        for family in families:
            family(bench, SILENT)

    benchmark.pedantic(run, rounds=3)  # type: ignore[attr-defined]


def _two_hundred() -> tuple[object, object, object]:
    """Places, levels and areas of 200 foundations on each other, 60 depths each."""
    from korbent.core.settlement.stress.influences import Areas

    rng = np.random.default_rng(4)
    x, y = (v.ravel() for v in np.meshgrid(np.arange(20) * 7.0, np.arange(10) * 6.0))
    sizes = rng.uniform(1.5, 3.0, (2, 200))
    areas = Areas(x, y, sizes[0], sizes[1], np.zeros(200), np.full(200, -1.0))
    return np.stack([x, y], axis=-1), np.tile(np.linspace(-1.1, -25.0, 60), (200, 1)), areas


def test_influences_of_200_foundations_on_each_other(benchmark: object) -> None:
    from korbent.core.settlement.stress.influences import Influences

    benchmark(lambda: Influences()(*_two_hundred()))  # type: ignore[arg-type, operator]


def test_bare_arithmetic_of_the_exact_kernel(benchmark: object) -> None:
    """Newmark's form at the four corners for 200 x 200 x 60 points, nothing else: what the influences are compared
    with."""
    from korbent.core.settlement.stress.rectangle import rectangle_stress

    z = np.linspace(0.1, 24.0, 60)

    def bare() -> None:
        for _ in range(200):  # in parts that stay in the processor's memory
            rectangle_stress(
                np.ones((200, 1)),
                np.ones((200, 1)),
                np.full((200, 1), 2.0),
                np.full((200, 1), 2.5),
                np.broadcast_to(z, (200, 60)),
            )

    benchmark(bare)  # type: ignore[operator]


def test_one_of_200_foundations_moved(benchmark: object) -> None:
    from dataclasses import replace

    from korbent.core.settlement.stress.influences import Influences

    places, levels, areas = _two_hundred()
    kept = Influences()
    kept(places, levels, areas)  # type: ignore[arg-type]
    counter = itertools.count()

    def move() -> None:
        x = areas.x.copy()  # type: ignore[attr-defined]
        x[17] += 0.001 * (1 + next(counter))
        kept(np.stack([x, areas.y], axis=-1), levels, replace(areas, x=x))  # type: ignore[arg-type, attr-defined, type-var]

    benchmark(move)  # type: ignore[operator]


@pytest.mark.parametrize("count", [25, 50, 100, 200])
def test_history_of_50_years_in_8_steps(benchmark: object, count: int) -> None:
    """All foundations over time, as it runs in the background; how it grows with their number."""
    import datetime

    from korbent.core.model import ConstructionStep
    from korbent.core.settlement.history import compute

    project = plan_of(count)
    start = datetime.date(2027, 1, 4)
    steps = tuple(
        ConstructionStep(
            name=f"step {i}",
            date=start + datetime.timedelta(days=60 * i),
            ramp=20.0,
            factors={"G": (i + 1) / 8, "Ramp": 1.0},
        )
        for i in range(8)
    )
    project = project.replaced(actions=project.actions.replaced(steps=steps))
    benchmark.pedantic(lambda: compute(project), rounds=1)  # type: ignore[attr-defined]


def test_concrete_of_50_pads_20_combinations(benchmark: object) -> None:
    from korbent.core.bench import benches_for
    from korbent.core.concrete.checks import concrete_checks
    from korbent.core.concrete.cracks import crack_checks
    from korbent.core.concrete.pedestal import pedestal_checks
    from korbent.core.working import SILENT

    project = plan_of(50, 20)

    def concrete() -> None:
        for _, bench in benches_for(project, project.pads):
            for family in (concrete_checks, crack_checks, pedestal_checks):
                family(bench, SILENT)

    benchmark(concrete)  # type: ignore[operator]


def test_table_of_bars_of_one_pad(benchmark: object) -> None:
    from korbent.core.concrete.choose import bar_table

    benchmark(lambda: bar_table(FIFTY, FIFTY.pads[6]))  # type: ignore[operator]
