"""Pedestals under every column of a common base, round ones, spirals, and dowels by force."""

import math

import numpy as np
import pytest

from korbent.core.bench import bench_for
from korbent.core.concrete.interaction import bar_places, capacity, interaction, surface_of
from korbent.core.concrete.pedestal import interaction_line
from korbent.core.concrete.schedule import CIRCLE, HELIX, schedule
from korbent.core.concrete.standards.registry import standard_of
from korbent.core.evaluate import evaluate_pad
from korbent.core.geometry import table
from korbent.core.model import Dowels, Load, Pedestal, Project, Settings, edited, renamed
from korbent.core.sizing.first_size import combined
from korbent.core.working import SILENT
from korbent.verification.pad import one_pad
from tests.core.test_several_columns import pair

ROUND = Pedestal(shape="circle", size_x=0.6, size_y=0.6, top=0.2, bars=8, diameter=0.02)
SQUARE = Pedestal(size_x=0.6, size_y=0.6, top=0.2)


def test_the_pedestal_of_the_second_column_has_checks_of_its_own() -> None:
    """The same column alone on its base gives the same ratios: another base under it does not change a pedestal."""
    project = pair(Load(V=900.0), Load(V=600.0, My=90.0, Hx=20.0))
    pad = project.pads[0]
    second = pad.further[0]
    both = edited(project, ("pads", pad.name, "pedestals"), {second: SQUARE})
    found = evaluate_pad(both, both.pads[0])
    alone = one_pad(load=Load(V=600.0, My=90.0, Hx=20.0), width=pad.width, length=pad.length)
    own = alone.pads[0].replaced(level=pad.level, held=pad.held, thickness=pad.thickness, pedestal=SQUARE)
    point = alone.actions.load_points[0].replaced(level=project.load_point(second).level)
    alone = alone.replaced(
        pads=(own,),
        settings=project.settings,
        standards=project.standards,
        actions=project.actions.replaced(load_points=(point,)),
    )
    single = evaluate_pad(alone, alone.pads[0])
    for check in ("pedestal", "pedestal-steel", "pedestal-ties", "pedestal-slender"):
        assert found.check(check).ratio == pytest.approx(single.check(check).ratio, rel=1e-9), check
    assert found.check("pedestal").message.startswith(second)


def test_the_worse_of_two_pedestals_counts_and_each_has_its_curve() -> None:
    project = pair(Load(V=900.0), Load(V=600.0, My=150.0))
    pad = project.pads[0]
    both = project.replaced(pads=(pad.replaced(pedestal=SQUARE, pedestals={pad.further[0]: SQUARE}),))
    one = project.replaced(pads=(pad.replaced(pedestal=SQUARE),))
    worst = evaluate_pad(both, both.pads[0]).check("pedestal")
    assert worst.ratio > evaluate_pad(one, one.pads[0]).check("pedestal").ratio
    first, second = (interaction_line(both, both.pads[0], name) for name in both.pads[0].carries)
    assert first is not None
    assert second is not None
    assert first.acting_N[0] != pytest.approx(second.acting_N[0])
    assert second.acting_M.max() > first.acting_M.max()


def test_pedestals_weigh_where_they_stand() -> None:
    """Two alike at both columns, symmetric: twice the weight of one, and no moment; one alone turns the base by its
    weight."""
    project = pair(Load(V=500.0), Load(V=500.0))
    pad = project.pads[0]

    def state(**changes: object) -> tuple[float, float]:
        changed = project.replaced(pads=(pad.replaced(**changes),))
        bench = bench_for(changed, changed.pads, np.zeros(1, dtype=int), table(changed.pads[0]))
        forces = bench.forces(bench.situations("concrete"), SILENT)
        return float(forces.pedestal[0, 0]), float(forces.My[0, 0])

    none, both, second = (
        state(),
        state(pedestal=SQUARE, pedestals={pad.further[0]: SQUARE}),
        state(pedestals={pad.further[0]: SQUARE}),
    )
    high = SQUARE.top - pad.top
    assert none[0] == 0.0
    assert second[0] == pytest.approx(25.0 * 0.36 * high)
    assert both[0] == pytest.approx(2 * second[0])
    assert both[1] == pytest.approx(none[1], abs=1e-6)
    # the pedestal takes the place of backfill, so its own weight less that of the soil turns the base
    assert second[1] != pytest.approx(none[1], abs=1e-3)


def test_a_pedestal_of_no_column_is_refused_and_a_new_name_takes_it_along() -> None:
    project = pair(Load(V=500.0), Load(V=500.0))
    pad = project.pads[0]
    with pytest.raises(match="none of the further columns"):
        edited(project, ("pads", pad.name, "pedestals"), {"Z9": SQUARE})
    with pytest.raises(match="larger than the width"):
        edited(project, ("pads", pad.name, "pedestals"), {pad.further[0]: SQUARE.replaced(size_x=30.0)})
    second = pad.further[0]
    named = renamed(
        edited(project, ("pads", pad.name, "pedestals"), {second: SQUARE}),
        ("actions", "load_points", second),
        "Other",
    )
    assert list(named.pads[0].pedestals) == ["Other"]


@pytest.mark.parametrize(
    "changes", [{"size_y": 0.5}, {"shape": "rectangle", "around": "spiral"}], ids=["two diameters", "square"]
)
def test_round_pedestals_have_one_diameter_and_spirals_are_round(changes: dict[str, object]) -> None:
    with pytest.raises(ValueError, match=r"diameter|round"):
        ROUND.replaced(**changes)


@pytest.mark.parametrize("name", ["EN 1992-1-1:2004", "ACI 318-19"])
def test_a_round_section_against_strips_of_its_concrete(name: str) -> None:
    """A second method: the block by the chords of thin strips, the bars one by one, the lesser of both places of the
    bars."""
    settings = Settings()
    standard = standard_of(name, settings)
    assert standard is not None
    rules = standard.column_rules(settings.concrete_strength, settings.steel_strength)
    D, cover, area = 0.6, 0.05, math.pi * 0.02**2 / 4
    surface = interaction(ROUND, cover, rules)
    assert len(surface.N) == 1

    def by_slices(turn: float, c: float) -> tuple[float, float]:
        edges = np.linspace(D / 2 - rules.block * c, D / 2, 4001)
        mid = (edges[1:] + edges[:-1]) / 2
        strips = 2 * np.sqrt(np.maximum((D / 2) ** 2 - mid**2, 0.0)) * np.diff(edges)
        stress = rules.stress * rules.narrowing * 1000
        x = bar_places(ROUND, cover, turn)[:, 0]
        strain = rules.strain * (1 - (D / 2 - x) / c)
        steel = np.clip(strain * 200_000, -rules.yield_stress, rules.yield_stress) * 1000
        steel = (steel - stress * (D / 2 - x < rules.block * c)) * area
        phi = 1.0
        if name.startswith("ACI"):
            phi = 0.65 + 0.25 * min(max((-strain.min() - rules.yield_stress / 200_000) / 0.003, 0.0), 1.0)
        return phi * (stress * strips.sum() + steel.sum()), phi * (stress * (strips * mid).sum() + (steel * x).sum())

    depths = np.linspace(0.12, 0.5, 400)
    curves = [np.array([by_slices(turn, c) for c in depths]).T for turn in (0.0, math.pi / 8)]
    for N in (300.0, 900.0, 1500.0):
        expected = min(float(np.interp(N, *curve)) for curve in curves)
        often = capacity(surface, np.array([N]), np.zeros(1), np.ones(1))
        assert often[0] == pytest.approx(expected, rel=2e-3)


def test_a_round_section_resists_alike_in_every_direction_and_with_any_number_of_bars() -> None:
    settings = Settings()
    standard = standard_of("EN 1992-1-1:2004", settings)
    for bars in (6, 7, 9, 12):
        surface = surface_of(ROUND.replaced(bars=bars), settings, standard)  # type: ignore[arg-type]
        turns = np.linspace(0, 2 * np.pi, 13)
        often = capacity(surface, np.full(13, 800.0), 100 * np.sin(turns), 100 * np.cos(turns))
        assert np.ptp(often) < 1e-9 * often[0]


def test_a_spiral_raises_what_aci_lets_a_section_carry() -> None:
    """0.85 times 0.75 against 0.80 times 0.65 (22.4.2.1, 21.2.2), by the sum of concrete and steel."""
    settings = Settings()
    standard = standard_of("ACI 318-19", settings)
    tied, wound = (
        surface_of(ROUND.replaced(around=around), settings, standard).N.max()  # type: ignore[arg-type]
        for around in ("ties", "spiral")
    )
    steel = 8 * math.pi * 0.02**2 / 4
    nominal = 1000 * (0.85 * 30 * (math.pi * 0.09 - steel) + 500 * steel)
    assert tied == pytest.approx(0.80 * 0.65 * nominal, rel=1e-3)
    assert wound == pytest.approx(0.85 * 0.75 * nominal, rel=1e-3)


def test_aci_asks_a_spiral_for_its_share_its_gaps_and_six_bars() -> None:
    project = edited(one_pad(width=2.0, length=2.0, load=Load(V=800.0)), ("standards", "concrete"), "ACI 318-19")
    pad = project.pads[0]
    spiral = Pedestal(
        shape="circle",
        size_x=0.6,
        size_y=0.6,
        top=pad.top + 0.5,
        bars=8,
        diameter=0.02,
        around="spiral",
        tie_spacing=0.05,
    )

    def ratio(**changes: object) -> float:
        changed = project.replaced(pads=(pad.replaced(pedestal=spiral.replaced(**changes)),))
        return float(evaluate_pad(changed, changed.pads[0]).check("pedestal-ties").ratio or 0.0)

    core = 0.6 - 2 * 0.05
    asked = 0.45 * ((0.6 / core) ** 2 - 1) * 30 / 500
    share = 4 * math.pi * 0.01**2 / 4 * (core - 0.01) / (0.05 * core**2)
    assert ratio() == pytest.approx(
        max(asked / share, 0.0254 / 0.04, 0.375 * 0.0254 * 0.999 / 0.01, 0.05 / (3 * 0.0254 + 0.01)), rel=1e-9
    )
    assert ratio(bars=5) >= 6 / 5 - 1e-12
    assert ratio(tie_spacing=0.02) >= 0.0254 / 0.01 - 1e-12


def test_bars_of_round_pedestals_in_the_schedule() -> None:
    project = pair(Load(V=500.0), Load(V=500.0))
    pad = project.pads[0]
    wound = ROUND.replaced(around="spiral", tie_spacing=0.06)
    bars = schedule(
        project.replaced(
            pads=(pad.replaced(pedestal=ROUND, pedestals={pad.further[0]: wound}, dowels=Dowels(number=6)),)
        )
    )
    circles = next(b for b in bars if b.shape == CIRCLE)
    helix = next(b for b in bars if b.shape == HELIX)
    assert circles.a == helix.a == pytest.approx(0.5)
    assert helix.length == pytest.approx((helix.c / 0.06 + 3) * math.hypot(math.pi * (0.5 - 0.01), 0.06))
    # dowels under both columns
    assert sum(n for b in bars for _, where, n in b.where if where == "dowels") == 12


def test_dowels_are_asked_for_by_the_axial_force() -> None:
    """All of a tension; of a compression what the concrete does not bear; and 0.10 N over the yield stress
    (9.5.2(2))."""
    project = one_pad(width=3.0, length=3.0, load=Load(V=-300.0))
    lifted = edited(project, ("pads", project.pads[0].name, "dowels"), Dowels(number=4, diameter=0.016))
    found = evaluate_pad(lifted, lifted.pads[0]).check("dowels-steel")
    assert found.demand == pytest.approx(1.0 * 300e3 / (500 / 1.15), rel=0.36)
    assert "by the axial force" in found.message
    pressed = edited(
        one_pad(width=3.0, length=3.0, load=Load(V=4000.0)),
        ("pads", project.pads[0].name, "dowels"),
        Dowels(number=8, diameter=0.016),
    )
    least = evaluate_pad(pressed, pressed.pads[0]).check("dowels-steel")
    N = evaluate_pad(pressed, pressed.pads[0]).check("bearing-concrete").demand * 1000 * 0.16
    column = pressed.actions.load_points[0]
    assert least.demand >= 0.10 * N * 1000 / (500 / 1.15) * (column.size_x * column.size_y / 0.16) - 1e-6


def test_joined_bases_keep_the_pedestals_of_their_columns(demo: Project) -> None:
    """Lindmere's columns stand on pedestals; on one base they still do, where these end above it."""
    names = tuple(p.load_point for p in demo.pads[:2])
    project, found = combined(demo, names)
    pad = project.pad(found.pad.name)
    before = {name: p for one in demo.pads for name, p in one.all_pedestals.items()}
    for name in names:
        kept = pad.pedestal_under(name)
        assert kept == (before[name] if before[name].top > pad.top else None)
    assert pad.all_pedestals
