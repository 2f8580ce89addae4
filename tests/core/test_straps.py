"""Straps: reactions by statics, equilibrium of the pair, the beam between, what hangs together, what cannot be."""

import numpy as np
import pytest
from pydantic import ValidationError

from korbent import api
from korbent.core.bench import bench_for
from korbent.core.checks import State
from korbent.core.concrete.schedule import lap_of, schedule
from korbent.core.evaluate import evaluate
from korbent.core.evaluate.families import outcomes_for
from korbent.core.geometry import table
from korbent.core.model import Bars, Load, LoadPoint, Pedestal, Project
from korbent.core.model.foundations import Strap
from korbent.core.model.site import Range
from korbent.core.sizing.straps import grown
from korbent.core.straps.checks import beam_of, reactions, strap_weight
from korbent.core.straps.dimensions import changed
from korbent.core.working import SILENT
from korbent.verification.straps import tied_pair
from tests.invariants.test_whole import ledger_is_working

E, S = 0.6, 5.0
"""How far the edge column stands beyond the middle of its base, and the distance of the columns, m."""


def pair(V1: float = 700.0, V2: float = 1000.0, turn: float = 0.0, tied: bool = True, **edge: float) -> Project:
    """An edge column at the origin whose base reaches inwards only, and an inner one on its own base; turned as a whole
    by ``turn``."""
    return tied_pair(Load(V=V1, **edge), Load(V=V2), E, S, turn=turn, tied=tied)


def forces(project: Project, name: str, question: str = "allowable"):  # type: ignore[no-untyped-def]
    pad = project.pad(name)
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    situations = bench.situations(question)
    return bench, situations, bench.forces(situations, SILENT)


@pytest.mark.parametrize("turn", [0.0, 37.0, 90.0, 200.0])
@pytest.mark.parametrize(("V1", "V2"), [(700.0, 1000.0), (350.0, 1400.0), (900.0, 300.0)])
def test_reactions_by_statics(turn: float, V1: float, V2: float) -> None:
    """R1 = P1 S/(S - e), R2 = P2 - P1 e/(S - e), in any direction of the plan."""
    project = pair(V1, V2, turn)
    bench, situations, found = forces(project, "P")
    _, _, alone = forces(pair(V1, V2, turn, tied=False), "P")
    here, there = strap_weight(bench, bench.stands[0].ties[0])  # type: ignore[arg-type]
    here, there = float(here[0, 0]), float(there[0, 0])
    whole = 25 * 0.5 * 0.9 * (S - E - 0.8 - 1.1)
    assert here + there == pytest.approx(whole, rel=1e-9)
    # its middle lies (0.8 + S - E - 1.1)/2 from that of the edge base
    assert there == pytest.approx(whole * (0.8 + S - E - 1.1) / 2 / (S - E), rel=1e-9)
    i = int(np.argmax(situations.factors.sum(axis=-1)))
    factor, weight = float(situations.factors[i].max()), float(situations.weight[i])
    assert found.V[0, i] - alone.V[0, i] == pytest.approx(factor * V1 * (S / (S - E) - 1) + weight * here, rel=1e-9)
    _, _, inner = forces(project, "Q")
    _, _, inner_alone = forces(pair(V1, V2, turn, tied=False), "Q")
    assert inner.V[0, i] - inner_alone.V[0, i] == pytest.approx(-factor * V1 * E / (S - E) + weight * there, rel=1e-9)


def test_nothing_is_left_about_the_middle_along_the_strap_and_all_of_it_across() -> None:
    project = pair(Hx=30.0, My=40.0, Mx=25.0, Hy=-12.0)
    _, _, found = forces(project, "P")
    _, _, alone = forces(pair(tied=False, Hx=30.0, My=40.0, Mx=25.0, Hy=-12.0), "P")
    backfill = found.backfill_cut * E  # what the column displaces lies off the middle too
    assert found.My[0] == pytest.approx(np.broadcast_to(backfill, found.My.shape)[0], abs=1e-9)
    assert found.Mx[0] == pytest.approx(alone.Mx[0], rel=1e-12)
    assert found.Hx[0] == pytest.approx(alone.Hx[0])


def test_the_pair_is_in_equilibrium() -> None:
    """Forces and moments of both bases about any point are those of both columns and the strap."""
    project, apart = pair(Hx=30.0, My=40.0), pair(tied=False, Hx=30.0, My=40.0)
    bench, situations, p = forces(project, "P")
    _, _, q = forces(project, "Q")
    _, _, p0 = forces(apart, "P")
    _, _, q0 = forces(apart, "Q")
    weight = situations.weight * float(sum(strap_weight(bench, bench.stands[0].ties[0]))[0, 0])  # type: ignore[arg-type]
    assert p.V[0] + q.V[0] == pytest.approx(p0.V[0] + q0.V[0] + weight, rel=1e-9)
    # about the middle of the edge base, the inner one S - e away, the middle of the strap between the facing edges
    Ls = S - E
    about = p.My[0] + q.My[0] + q.V[0] * Ls
    before = p0.My[0] + q0.My[0] + q0.V[0] * Ls + weight * (0.8 + Ls - 1.1) / 2
    assert about == pytest.approx(before, rel=1e-9)


def test_the_beam_carries_the_couple() -> None:
    project = pair()
    bench, situations, _ = forces(project, "P", "concrete")
    tie = bench.stands[0].ties[0]
    assert tie is not None
    s, moment, shear = beam_of(bench, tie)
    R1, R2, apart = reactions(bench, tie)
    assert float(apart[0, 0]) == pytest.approx(S - E)
    j = 0
    V1 = float(
        situations.factors[j]
        @ [bench.points[0].loads[c].V if c in bench.points[0].loads else 0.0 for c in situations.cases]
    )
    # at the face of the edge base: R1 times half its width less P1 times (e + half its width)
    face = int(np.abs(s[0, :, 0] - 0.8).argmin())
    assert moment[0, face, j] == pytest.approx(R1[0, j] * 0.8 - V1 * (E + 0.8), rel=1e-6)
    # and at the face of the inner base, seen from its other side: its pressure up, its column down
    V2 = float(
        situations.factors[j]
        @ [tie.points[0].loads[c].V if c in tie.points[0].loads else 0.0 for c in situations.cases]
    )
    assert s[0, -1, 0] == pytest.approx(S - E - 1.1)
    assert moment[0, -1, j] == pytest.approx((R2[0, j] - V2) * 1.1, rel=1e-6)
    assert shear[0, :, j][s[0, :, 0] < 0.79].max(initial=0.0) == 0.0
    assert abs(shear[0, face, j]) == pytest.approx(abs(R1[0, j] - V1), rel=1e-6)


def test_checks_stand_at_the_edge_base_and_more_steel_lowers_them() -> None:
    project = pair()
    results = evaluate(project)
    own = {c.check.id: c for c in results.pad("P").checks}
    assert own["strap-top"].ratio is not None
    assert own["strap-shear"].ratio is not None
    assert not any(c.check.id.startswith("strap") for c in results.pad("Q").checks)
    assert not any(c.check.id.startswith("strap") for c in evaluate(pair(tied=False)).pad("P").checks)
    more = project.straps[0].replaced(top=Bars(diameter=0.025, number=10), links=Bars(diameter=0.012, spacing=0.1))
    then = {c.check.id: c for c in evaluate(project.replaced(straps=(more,))).pad("P").checks}
    assert then["strap-top"].ratio < own["strap-top"].ratio  # type: ignore[operator]
    assert then["strap-shear"].ratio < own["strap-shear"].ratio  # type: ignore[operator]


def test_a_tie_makes_the_edge_base_central_and_lifts_the_inner_one() -> None:
    alone, tied = evaluate(pair(tied=False)), evaluate(pair())
    assert (alone.pad("P").check("eccentricity").ratio or 9) > 0.9
    assert (tied.pad("P").check("eccentricity").ratio or 0) < 0.1
    weak = evaluate(pair(V1=2500.0, V2=60.0))
    inner = [c for c in weak.pad("Q").checks if c.check.id in ("contact-share", "uplift", "eccentricity")]
    assert any(c.state is State.UNSTABLE for c in inner)


def test_a_change_of_one_base_is_seen_by_the_other() -> None:
    project = pair()
    before = evaluate(project).pad("Q").check("presumed-pressure")
    load = project.actions.load_points[0].replaced(loads={"G": Load(V=1400.0)})
    changed = project.replaced(actions=project.actions.replaced(load_points=(load, project.actions.load_points[1])))
    after = evaluate(changed).pad("Q").check("presumed-pressure")
    fresh = evaluate(pair(V1=1400.0)).pad("Q").check("presumed-pressure")
    assert after.demand == pytest.approx(fresh.demand)
    assert after.demand < before.demand  # type: ignore[operator]
    wider = project.pads[0].replaced(width=2.0, offset_x=-0.8)
    both = evaluate(project.replaced(pads=(wider, project.pads[1]))).pad("Q").check("presumed-pressure")
    assert both.demand < before.demand  # type: ignore[operator]


def test_sizes_do_not_decide_about_one_another() -> None:
    """A size among others has the same checks as alone."""
    project = pair(Hx=20.0)
    pad = project.pads[0]
    steps = (("width", -0.2), ("width", 0.4), ("thickness", 0.3), ("length", 0.5), ("offset_x", 0.1))
    whole = {
        o.check.id: o.ratio for o in outcomes_for(project, pad, table(pad, steps)) if o.check.id.startswith("strap")
    }
    assert len(whole) == 4
    for i, one in enumerate(steps, 1):
        for o in outcomes_for(project, pad, table(pad, (one,))):
            if o.check.id in whole:
                assert whole[o.check.id][i] == pytest.approx(o.ratio[1], rel=1e-12)  # type: ignore[index]


def test_pedestal_and_dowels_bear_what_their_column_brings() -> None:
    """Whatever the strap moves between the bases passes below them."""
    plinth = Pedestal(size_x=0.5, size_y=0.5, top=0.0)

    def checked(tied: bool) -> dict[str, float]:
        project = pair(tied=tied, My=20.0)
        pads = tuple(p.replaced(pedestal=plinth) for p in project.pads)
        found = evaluate(project.replaced(pads=pads)).pad("P").checks
        return {
            c.check.id: c.ratio
            for c in found
            if c.check.id.startswith(("pedestal", "dowels", "bearing-concrete")) and c.ratio is not None
        }

    apart, together = checked(False), checked(True)
    assert {"pedestal", "bearing-concrete"} <= set(apart)
    assert together == pytest.approx(apart, rel=1e-9)


@pytest.mark.parametrize("turn", [0.0, 30.0])
def test_the_ledger_is_the_working(turn: float) -> None:
    project = pair(turn=turn, Hx=20.0, My=15.0)
    plinth = Pedestal(size_x=0.5, size_y=0.5, top=0.0)
    pads = tuple(p.replaced(pedestal=plinth) for p in project.pads)
    assert ledger_is_working(project.replaced(pads=pads)) > 40


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"inner": "P"}, "two bases"),
        ({"inner": "nobody"}, "there is no base 'nobody'"),
        ({"links": Bars(diameter=0.01, number=4)}, "by their spacing"),
    ],
)
def test_straps_that_cannot_be(changes: dict[str, object], words: str) -> None:
    project = pair()
    with pytest.raises(ValidationError, match=words):
        project.replaced(straps=(project.straps[0].replaced(**changes),))


def test_straps_that_do_not_meet_as_they_should() -> None:
    """Askew at one base, the same two bases twice, two straps from one base at the boundary; a strap without its
    base."""
    project = pair()

    def with_third(x: float, y: float) -> Project:
        point = LoadPoint(name="F", x=x, y=y, size_x=0.4, size_y=0.4, level=0.0)
        pad = project.pads[1].replaced(name="Z", load_point="F")
        return project.replaced(
            actions=project.actions.replaced(load_points=(*project.actions.load_points, point)),
            pads=(*project.pads, pad),
        )

    askew = with_third(0.0, 6.0)
    for straps, words in (
        ((Strap(name="S2", edge="Z", inner="Q"),), "at Q it runs 40 degrees off the line of S1"),
        ((Strap(name="S2", edge="Q", inner="P"),), "tied by a strap already"),
        ((Strap(name="S2", edge="P", inner="Z"),), "P has a strap already"),
    ):
        with pytest.raises(ValidationError, match=words):
            askew.replaced(straps=(*askew.straps, *straps))
    with pytest.raises(ValidationError, match="there is no base 'Q'"):
        project.replaced(pads=project.pads[:1])
    square = with_third(S, 6.0)
    assert len(square.replaced(straps=(*square.straps, Strap(name="S2", edge="Z", inner="Q"))).straps) == 2


def test_the_bars_of_the_strap_are_in_the_schedule() -> None:
    """From the outer edge of the base at the boundary to a lap into the inner one; links to the face of that, nested
    where there are four legs."""
    project = pair()
    cover = project.settings_of(project.pads[0]).concrete_cover
    strap = project.straps[0].replaced(legs=5)
    project = project.replaced(straps=(strap,))
    bars = [(bar, where, n) for bar in schedule(project) for name, where, n in bar.where if name == "S1"]
    by_place = {where: (bar, n) for bar, where, n in bars if where != "strap links"}
    face = 0.8 + S - E - 1.1  # from the outer edge of the one to the face of the other
    for where, given in (("strap top", strap.top), ("strap bottom", strap.bottom)):
        bar, n = by_place[where]
        into = min(lap_of(project, project.pads[0], given.diameter), 2.2 - cover)
        assert bar.length == pytest.approx(face + into - cover, abs=0.0051)
        assert (n, bar.diameter) == (given.number, given.diameter)
    links = sorted((bar for bar, where, _ in bars if where == "strap links"), key=lambda bar: (bar.shape, -bar.a))
    assert [bar.shape for bar in links] == ["21", "51", "51"]
    wide = strap.width - 2 * cover
    assert [bar.a for bar in links[1:]] == pytest.approx([wide, wide / 2], abs=0.0051)
    assert [bar.b for bar in links] == pytest.approx([strap.depth - 2 * cover] * 3, abs=0.0051)
    spaces = links[1].count - 1
    assert spaces * 0.2 >= face - cover - 1e-9 > (spaces - 1) * 0.2
    assert not any(name == "S1" for bar in schedule(project, project.pads) for name, _, _ in bar.where)


@pytest.mark.parametrize(
    ("name", "links", "most"),
    [
        # 0.9 f_yk/1.15 rho_w; 0.9 0.6 (1 - f_ck/250) f_cd/2 with f_ck 30 MPa, f_cd 20 MPa
        ("EN 1992-1-1:2004", 0.9 * 500 / 1.15, 0.9 * 0.6 * 0.88 * 20 / 2),
        ("ACI 318-19", 0.75 * 60_000 / 145.0377, None),
        ("AS 3600:2018", 0.7 * 500, 0.7 * 0.275 * 30),
    ],
)
def test_shear_by_links_and_its_greatest(name: str, links: float, most: float | None) -> None:
    """Links at 45 degrees by hand: what they add, and what no amount of links goes beyond."""

    def capacity(bars: Bars | None, legs: int = 2) -> float:
        project = pair()
        project = project.replaced(
            standards=project.standards.replaced(concrete=name),
            settings=project.settings.replaced(concrete_strength=30.0, steel_strength=500.0),
            straps=(project.straps[0].replaced(links=bars, legs=legs),),
        )
        found = evaluate(project).pad("P").check("strap-shear").capacity
        assert found is not None
        return found

    rho = 2 * np.pi * 0.01**2 / 4 / (0.2 * 0.5)
    some = Bars(diameter=0.01, spacing=0.2)
    added = links * rho
    if name.startswith("EN"):
        assert capacity(some) == pytest.approx(added, rel=1e-6)
    else:
        # with twice the spacing half of it is left
        half = Bars(diameter=0.01, spacing=0.4)
        assert capacity(some) - capacity(half) == pytest.approx(added / 2, rel=1e-6)
    much = capacity(Bars(diameter=0.02, spacing=0.05), 8)
    if most is not None:
        assert much == pytest.approx(most, rel=1e-6)
    else:
        concrete = capacity(some) - added
        assert much - concrete == pytest.approx(0.75 * 8 * (30 * 145.0377) ** 0.5 / 145.0377, rel=2e-2)


def _own(project: Project) -> dict[str, object]:
    return {c.check.id: c for c in evaluate(project).pad("P").checks if c.check.id.startswith("strap")}


def _with(project: Project, **values: object) -> Project:
    return project.replaced(straps=(project.straps[0].replaced(**values),))


def _by(project: Project, standard: str) -> Project:
    return project.replaced(standards=project.standards.replaced(concrete=standard))


@pytest.mark.parametrize(
    ("standard", "least"),
    [
        # by hand for C30, B500, b = 0.5 m, d = 0.9 - 0.05 - 0.01 - 0.0125 m
        ("EN 1992-1-1:2004", 0.26 * 0.3 * 30 ** (2 / 3) / 500),
        ("ACI 318-19", max(0.25 * 30**0.5, 1.4) / 500),
        ("ACI 318-14", max(0.25 * 30**0.5, 1.4) / 500),
        ("AS 3600:2018", None),
    ],
)
def test_least_steel_of_the_beam_by_each_standard(standard: str, least: float | None) -> None:
    """A light strap: what is asked for is the least, which in ACI alone is at most 4/3 of what is needed."""
    project = _by(pair(30.0, 600.0), standard)
    strap, settings = project.straps[0], project.settings
    cover = strap.cover if strap.cover is not None else settings.concrete_cover
    d = strap.depth - cover - 0.010 - strap.top.diameter / 2
    fck, fyk = settings.concrete_strength, settings.steel_strength
    if least is None:
        least = 0.20 * (strap.depth / d) ** 2 * 0.6 * fck**0.5 / fyk
    else:
        least *= {30.0: 1.0}[fck] if (fck, fyk) == (30.0, 500.0) else 1.0
    assert (fck, fyk) == (30.0, 500.0)
    found = _own(project)["strap-top"].demand  # type: ignore[attr-defined]
    if standard.startswith("ACI"):
        # 3 sqrt(f'c) and 200 psi are 0.249 and 1.379 in MPa
        assert found < least * d * 1e6
        heavier = _own(_by(pair(230.0, 1000.0), standard))["strap-top"].demand  # type: ignore[attr-defined]
        assert heavier > found
    else:
        assert found == pytest.approx(least * d * 1e6, rel=1e-6)


@pytest.mark.parametrize(
    ("standard", "along", "ratio"),
    [
        ("EN 1992-1-1:2004", lambda d, h: 0.75 * d, 0.08 * 30**0.5 / 500),
        ("AS 3600:2018", lambda d, h: min(0.5 * h, 0.3), 0.08 * 30**0.5 / 500),
        # f_yt at most 420 MPa (60 000 psi)
        ("ACI 318-19", lambda d, h: min(d / 2, 0.61), max(0.062 * 30**0.5, 0.35) / 413.7),
    ],
)
def test_least_links_and_their_distance(standard: str, along: object, ratio: float) -> None:
    """Thin links near together are too little, thick ones far apart too far; both at the limits worked by hand."""
    project = _by(pair(1500.0, 2200.0), standard)
    strap = project.straps[0]
    cover = strap.cover if strap.cover is not None else project.settings.concrete_cover
    thin = 0.006
    d = strap.depth - cover - thin - strap.top.diameter / 2
    apart = 2 * np.pi * thin**2 / 4 / (ratio * strap.width)
    for factor, holds in ((0.97, True), (1.03, False)):
        links = Bars(diameter=thin, spacing=round(apart * factor, 4))
        assert (_own(_with(project, links=links))["strap-links"].ratio <= 1.0) is holds  # type: ignore[attr-defined]
    thick = 0.016
    d = strap.depth - cover - thick - strap.top.diameter / 2
    most = along(d, strap.depth)  # type: ignore[operator]
    for factor, holds in ((0.98, True), (1.02, False)):
        links = Bars(diameter=thick, spacing=round(most * factor, 4))
        assert (_own(_with(project, links=links, legs=4))["strap-links"].ratio <= 1.0) is holds  # type: ignore[attr-defined]


def test_a_strap_without_links_fails_where_some_are_asked_for() -> None:
    bare = _own(_with(pair(), links=None))["strap-links"]
    assert bare.state is State.FAILS  # type: ignore[attr-defined]
    assert bare.ratio is None  # type: ignore[attr-defined]
    assert "no links" in bare.message  # type: ignore[attr-defined]
    light = _own(_with(_by(pair(30.0, 600.0), "ACI 318-19"), links=None))["strap-links"]
    assert light.state is State.HOLDS  # type: ignore[attr-defined]


@pytest.mark.parametrize("standard", ["EN 1992-1-1:2004", "ACI 318-19", "AS 3600:2018"])
@pytest.mark.parametrize(("V1", "V2"), [(300.0, 900.0), (900.0, 1400.0), (1800.0, 2600.0)])
def test_a_weak_strap_grows_until_it_holds_and_a_strong_one_stays(standard: str, V1: float, V2: float) -> None:
    weak = _with(
        _by(pair(V1, V2), standard),
        top=Bars(diameter=0.012, number=2),
        bottom=Bars(diameter=0.012, number=2),
        links=None,
    )
    strap, words = grown(weak, weak.straps[0])
    assert words
    held = weak.replaced(straps=(strap,))
    assert all(c.state is State.HOLDS for c in _own(held).values())  # type: ignore[attr-defined]
    again, nothing = grown(held, strap)
    assert again is strap
    assert nothing == ()
    assert strap.width == weak.straps[0].width


def test_only_what_fails_grows() -> None:
    project = _with(pair(), links=Bars(diameter=0.006, spacing=0.3))
    assert [c.check.id for c in _own(project).values() if c.state is State.FAILS] == ["strap-links"]  # type: ignore[attr-defined]
    strap, words = grown(project, project.straps[0])
    assert (strap.top, strap.bottom, strap.depth) == (
        project.straps[0].top,
        project.straps[0].bottom,
        project.straps[0].depth,
    )
    assert all("links" in w or "legs" in w for w in words)


def test_a_strap_that_nothing_helps_says_so() -> None:
    project = _with(pair(25_000.0, 40_000.0), width=0.2, depth=0.4)
    with pytest.raises(ValueError, match=r"no bars, links, depth up to 1.20 m are enough"):
        grown(project, project.straps[0])
    no_standard = _by(pair(), "none")
    with pytest.raises(ValueError, match="concrete standard"):
        grown(no_standard, no_standard.straps[0])


def weak_in_depth() -> Project:
    """A strap too low for its moment whatever its bars."""
    return _with(pair(1800.0, 2600.0), width=0.3, depth=0.4)


def test_it_grows_within_its_ranges_and_on_its_raster() -> None:
    """Depth to its limit on the raster, then width; pinned sizes stay; a size below its range is raised."""
    project = weak_in_depth()
    own = project.straps[0]
    free, _ = grown(project, own)
    assert free.width == own.width
    most = own.depth + 0.6 * (free.depth - own.depth)
    limited = own.replaced(ranges={"depth": Range(high=most, step=0.07), "width": Range(high=1.5, step=0.1)})
    strap, words = grown(project.replaced(straps=(limited,)), limited)
    assert own.depth < strap.depth <= most
    assert strap.depth / 0.07 == pytest.approx(round(strap.depth / 0.07), abs=1e-6)
    assert strap.width / 0.1 == pytest.approx(round(strap.width / 0.1), abs=1e-6)
    assert strap.width > own.width
    assert any(w.startswith("width") for w in words)
    pinned = own.replaced(ranges={"depth": Range(pinned=True)})
    with pytest.raises(ValueError, match="sizes are pinned"):
        grown(project.replaced(straps=(pinned,)), pinned)
    low = free.replaced(ranges={"depth": Range(low=free.depth + 0.2)})
    raised, said = grown(project.replaced(straps=(low,)), low)
    assert raised.depth == pytest.approx(free.depth + 0.2)
    assert said


def test_a_range_of_a_strap_is_typed_and_refused_where_it_makes_no_sense() -> None:
    project = weak_in_depth()
    name = project.straps[0].name
    new = api.change(project, "straps", name, "ranges", "depth", "high", to=0.7)
    assert new.straps[0].ranges["depth"].high == 0.7
    assert api.change(new, "straps", name, "ranges", "width", "step", to=0.05).straps[0].ranges["width"].pinned
    with pytest.raises(ValueError, match="has no range"):
        project.straps[0].replaced(ranges={"cover": Range()})


def two_pairs(kind: str | None = "A") -> Project:
    """The pair, and the same 30 m further along y with a heavier edge column."""
    project = pair()
    actions = project.actions
    points = tuple(p.replaced(name=f"{p.name}b", y=p.y + 30.0) for p in actions.load_points)
    pads = tuple(p.replaced(name=f"{p.name}b", load_point=f"{p.load_point}b") for p in project.pads)
    strap = project.straps[0].replaced(type=kind)
    other = strap.replaced(name="S2", edge=f"{strap.edge}b", inner=f"{strap.inner}b")
    return project.replaced(
        actions=actions.replaced(load_points=(*actions.load_points, *points)),
        pads=(*project.pads, *pads),
        straps=(strap, other),
    )


def test_straps_of_one_type_have_one_beam() -> None:
    project = two_pairs()
    bars = Bars(diameter=0.02, number=5)
    for what, to in (("depth", 0.95), ("top", bars), ("legs", 4), ("links", None)):
        project = api.change(project, "straps", "S2", what, to=to)
        assert [getattr(s, what) for s in project.straps] == [to, to]
    project = api.change(project, "straps", "S1", "ranges", "depth", "high", to=1.1)
    assert [s.ranges["depth"].high for s in project.straps] == [1.1, 1.1]
    # in the size panel too
    project = changed(project, project.pad(project.straps[0].edge), "strap_width", 0.6)
    assert [s.width for s in project.straps] == [0.6, 0.6]
    apart = api.change(project, "straps", "S2", "type", to=None)
    apart = api.change(apart, "straps", "S2", "depth", to=0.7)
    assert [s.depth for s in apart.straps] == [0.95, 0.7]
    joined = api.change(apart, "straps", "S2", "type", to="A")
    assert [s.depth for s in joined.straps] == [0.95, 0.95]
    free = api.change(two_pairs(None), "straps", "S1", "depth", to=0.85)
    assert free.straps[1].depth != 0.85
