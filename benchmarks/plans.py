"""Projects of a given number of pads for the benchmarks, made from the demo's columns."""

from korbent.core.model import Project
from korbent.demo import lindmere


def plan_of(count: int, combinations: int = 14) -> Project:
    """The demo's ground with ``count`` pads on a long grid and the first combinations that serve every question."""
    demo = lindmere()
    pads, points = [], []
    for i in range(count):
        source = demo.pads[i % len(demo.pads)]
        point = demo.load_point(source.load_point)
        name = f"C{i + 1}"
        points.append(point.replaced(name=name, x=point.x + 40.0 * (i // len(demo.pads))))
        pads.append(
            source.replaced(name=f"P{i + 1}", load_point=name, width=round(source.width + 0.01 * (i % 7), 3))
        )
    kept = demo.actions.combinations
    rest = tuple(c for c in kept if {"EQU", "UPL", "settlement long"} & set(c.serves))[-3:]
    chosen = (*kept[:1], *kept[5 : 5 + combinations - 1 - len(rest)], *rest)
    actions = demo.actions.replaced(load_points=tuple(points), combinations=chosen)
    # actions first: pads name columns that must be there
    return Project(
        **{f: getattr(demo, f) for f in Project.model_fields} | {"actions": actions, "pads": tuple(pads)}
    )
