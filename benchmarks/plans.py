"""Projects of a given number of pads for the benchmarks, made from the demo's columns."""

from korbent.core.model import Actions, Combination, Load, LoadCase, LoadPoint, Pad, Project
from korbent.demo import lindmere


def plan_of(count: int, combinations: int = 14, worst_water: bool = False) -> Project:
    """The demo's ground with ``count`` pads on a long grid and the first combinations that serve every question.

    Those that are to be looked at with the worst water level (three situations each) have the usual one, unless asked
    for."""
    demo = lindmere()
    sources = tuple(p for p in demo.pads if p.kind == "pad")
    pads, points = [], []
    for i in range(count):
        source = sources[i % len(sources)]
        point = demo.load_point(source.load_point)
        name = f"C{i + 1}"
        points.append(point.replaced(name=name, x=point.x + 40.0 * (i // len(sources))))
        pads.append(source.replaced(name=f"P{i + 1}", load_point=name, width=round(source.width + 0.01 * (i % 7), 3)))
    kept = demo.actions.combinations
    rest = tuple(c for c in kept if {"EQU", "UPL", "settlement_long"} & set(c.serves))[-3:]
    chosen = (*kept[:1], *kept[5 : 5 + combinations - 1 - len(rest)], *rest)
    if not worst_water:
        chosen = tuple(c.replaced(water="normal") if c.water == "worst" else c for c in chosen)
    actions = demo.actions.replaced(load_points=tuple(points), combinations=chosen)
    changed = {"actions": actions, "pads": tuple(pads), "straps": ()}
    return Project(**{f: getattr(demo, f) for f in Project.model_fields} | changed)


def large() -> Project:
    """100 boreholes of 12 strata, 500 columns with 12 cases, a pad under every tenth."""
    demo = lindmere()
    holes = []
    for i in range(100):
        hole = demo.ground.boreholes[i % 3]
        holes.append(hole.replaced(name=f"B{i}", x=float(i * 7 % 90), y=float(i * 13 % 70), strata=hole.strata * 2))
    cases = tuple(LoadCase(name=f"C{k}", nature="permanent" if k == 0 else "imposed") for k in range(12))
    points = tuple(
        LoadPoint(
            name=f"K{i}",
            x=6.0 * (i % 25),
            y=6.0 * (i // 25),
            size_x=0.4,
            size_y=0.4,
            level=3.2,
            loads={c.name: Load(V=100.0 + i + k, Hx=3.0) for k, c in enumerate(cases)},
        )
        for i in range(500)
    )
    rows = tuple(
        Combination(number=i + 1, factors={c.name: 1.0 for c in cases}, serves=("allowable",)) for i in range(6)
    )
    pads = tuple(
        Pad(name=f"P{i}", load_point=f"K{i}", width=2.0 + 0.01 * (i % 5), length=2.0, thickness=0.5, level=2.0)
        for i in range(0, 500, 10)
    )
    return Project(
        ground=demo.ground.replaced(boreholes=tuple(holes)),
        actions=Actions(cases=cases, load_points=points, combinations=rows),
        pads=pads,
    )
