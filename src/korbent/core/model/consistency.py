"""What makes a project inconsistent, rule by rule: names that occur twice or lead nowhere, levels out of order, columns
off their base.

Rules work on anything shaped like a project, so that a file with other errors is read to its end too.
"""

from collections import Counter
from collections.abc import Callable, Iterable, Iterator
from itertools import pairwise
from math import atan2, cos, degrees, hypot, radians, sin
from typing import Any

from korbent.core.model.labels import label
from korbent.core.model.outlines import contains
from korbent.core.model.problem import Problem
from korbent.words import say

Rule = Callable[[Any], Iterator[Problem]]


def inconsistencies(project: Any) -> Iterator[Problem]:
    """All that the rules find, in their order."""
    for rule in RULES:
        yield from rule(project)


def names_once(project: Any) -> Iterator[Problem]:
    """Every name and number once."""
    ground, actions = project.ground, project.actions
    for where, items in (
        ("ground.soils", ground.soils),
        ("ground.boreholes", ground.boreholes),
        ("actions.cases", actions.cases),
        ("actions.load_points", actions.load_points),
        ("actions.area_loads", actions.area_loads),
        ("actions.steps", actions.steps),
        ("actions.drains", getattr(actions, "drains", ())),
        ("actions.marks", getattr(actions, "marks", ())),
        ("quantities", project.quantities),
        ("site", getattr(project, "site", ())),
        ("grids", getattr(project, "grids", ())),
        ("types", project.types),
        ("pads", project.pads),
        ("straps", getattr(project, "straps", ())),
        ("sheet_sets", getattr(project, "sheet_sets", ())),
        ("revisions", getattr(project, "revisions", ())),
    ):
        for name, count in Counter(i.name for i in items or ()).items():
            if count > 1:
                yield Problem(
                    where, say("the name {name!r} is used {count} times; give each its own", name=name, count=count)
                )
    for number, count in Counter(c.number for c in actions.combinations or ()).items():
        if count > 1:
            yield Problem(
                "actions.combinations", say("the number {number} is used {count} times", number=number, count=count)
            )


def soils_of_strata(project: Any) -> Iterator[Problem]:
    """Strata are of soils that there are."""
    ground = project.ground
    soils = {s.name for s in ground.soils or ()}
    for hole in ground.boreholes or ():
        for i, stratum in enumerate(hole.strata or ()):
            if stratum.soil not in soils:
                yield Problem(
                    say("ground.boreholes[{hole}].strata[{i}].soil", hole=hole.name, i=i + 1),
                    say(
                        "there is no soil {soil!r}; define it or name one of: {list}",
                        soil=stratum.soil,
                        list=_list(soils),
                    ),
                )


def water_levels(project: Any) -> Iterator[Problem]:
    """Low, normal, high rise."""
    ground = project.ground
    water = ground.water
    if water and None not in (water.low, water.normal, water.high) and not water.low <= water.normal <= water.high:
        yield Problem(
            "ground.water",
            say(
                "levels must rise: low {low}, normal {normal}, high {high}",
                low=water.low,
                normal=water.normal,
                high=water.high,
            ),
        )


def factors_of_cases(project: Any) -> Iterator[Problem]:
    """Combinations name cases that there are, and their set where one is needed."""
    actions = project.actions
    cases = {c.name for c in project.actions.cases or ()}
    for combination in actions.combinations or ():
        place = say("actions.combinations[{number}]", number=combination.number)
        for case in combination.factors or {}:
            if case not in cases:
                yield Problem(
                    f"{place}.factors",
                    say(
                        "there is no load case {case!r}; define it or name one of: {list}", case=case, list=_list(cases)
                    ),
                )
        if "ultimate" in (combination.serves or ()) and combination.factor_set is None:
            yield Problem(
                f"{place}.factor_set",
                say("a combination for ultimate ground checks names its set: M1, M2, M1+R2, M1+R2* or R"),
            )


def bases_of_combinations(project: Any) -> Iterator[Problem]:
    """Combinations for some bases name bases that there are, those tied by a strap together; settlement is that of all
    together."""
    pads = {p.name for p in project.pads or ()}
    ties = {(s.edge, s.inner) for s in getattr(project, "straps", None) or ()}
    for combination in project.actions.combinations or ():
        only = getattr(combination, "only", None) or ()
        place = say("actions.combinations[{number}].only", number=combination.number)
        for name in only:
            if name not in pads:
                yield Problem(place, say("there is no base {name!r}; known: {list}", name=name, list=_list(pads)))
        for tie in sorted(ties):
            if only and len({*tie} & {*only}) == 1:
                yield Problem(
                    place, say("{tie} and {tie_2} are tied by a strap: name both or neither", tie=tie[0], tie_2=tie[1])
                )
        settles = [s for s in ("settlement_long", "settlement_short") if s in (combination.serves or ())]
        if only and settles:
            yield Problem(
                place,
                say(
                    "it serves {settles}: bases settle together, so leave this empty or give settlement its own combination",
                    settles=" and ".join(settles),
                ),
            )


def loads_of_cases(project: Any) -> Iterator[Problem]:
    """Loads are of cases that there are."""
    actions = project.actions
    cases = {c.name for c in project.actions.cases or ()}
    for point in actions.load_points or ():
        for case in point.loads or {}:
            if case not in cases:
                yield Problem(
                    f"actions.load_points[{point.name}].loads",
                    say(
                        "there is no load case {case!r}; define it or name one of: {list}", case=case, list=_list(cases)
                    ),
                )


def construction_in_time(project: Any) -> Iterator[Problem]:
    """Area loads and cases are told apart by name; steps name them and stand in the order of time."""
    actions = project.actions
    cases = {c.name for c in project.actions.cases or ()}
    areas = {a.name for a in actions.area_loads or ()}
    for name in sorted(areas & cases):
        yield Problem(
            "actions.area_loads", say("{name!r} is a load case too; give the area load another name", name=name)
        )
    steps = actions.steps or ()
    for step in steps:
        for name in step.factors or {}:
            if name not in cases and name not in areas:
                yield Problem(
                    say("actions.steps[{step}].factors", step=step.name),
                    say(
                        "there is no load case or area load {name!r}; define it or name one of: {list}",
                        name=name,
                        list=_list(cases | areas),
                    ),
                )
    for first, second in pairwise(steps):
        if None not in (first.date, second.date) and str(second.date) <= str(first.date):
            yield Problem(
                say("actions.steps[{second}].date", second=second.name),
                say(
                    "{date} is not after {first_date} of the step {first!r}; steps stand in the order of time",
                    date=second.date,
                    first_date=first.date,
                    first=first.name,
                ),
            )


def columns_of_bases(project: Any) -> Iterator[Problem]:
    """Bases stand under columns and walls that there are, each once."""
    points = {p.name: p for p in project.actions.load_points or ()}
    for pad in project.pads or ():
        if pad.load_point not in points:
            yield Problem(
                f"pads[{pad.name}].load_point",
                say(
                    "there is no column or wall {load_point!r}; a pad needs one of: {list}",
                    load_point=pad.load_point,
                    list=_list(points),
                ),
            )
        for name in pad.further or ():
            if name not in points:
                yield Problem(
                    say("pads[{pad}].further", pad=pad.name),
                    say("there is no column or wall {name!r}; name some of: {list}", name=name, list=_list(points)),
                )
            elif name == pad.load_point or (pad.further or ()).count(name) > 1:
                yield Problem(
                    say("pads[{pad}].further", pad=pad.name),
                    say("{name} stands on the base twice; name it once", name=name),
                )


def walls_of_strips(project: Any) -> Iterator[Problem]:
    """A strip stands under a wall."""
    points = {p.name: p for p in project.actions.load_points or ()}
    for pad in project.pads or ():
        point = points.get(pad.load_point)
        plate = getattr(pad, "plate", None)
        cases = {c.name for c in project.actions.cases or ()}
        for load in getattr(plate, "loads", None) or ():
            if load.case is not None and load.case not in cases:
                yield Problem(
                    say("pads[{pad}].plate.loads", pad=pad.name),
                    say("there is no load case {case!r}; known: {list}", case=load.case, list=_list(cases)),
                )
        if pad.kind == "strip" and point is not None and not str(point.kind or "wall").endswith("wall"):
            yield Problem(
                say("pads[{pad}].kind", pad=pad.name),
                say(
                    "a strip stands under a wall, {load_point} is a {kind}: make it a pad",
                    load_point=pad.load_point,
                    kind=label(point.kind),
                ),
            )


def bases_of_straps(project: Any) -> Iterator[Problem]:
    """A strap ties two bases that there are, each under one column, apart from each other; a base is at the boundary of
    one strap alone, and straps that meet at a base run in line or at right angles."""
    pads = {p.name: p for p in project.pads or ()}
    points = {p.name: p for p in project.actions.load_points or ()}
    edges: Counter[str] = Counter()
    pairs: Counter[frozenset[str]] = Counter()
    ways: dict[str, list[tuple[str, float]]] = {}
    for strap in getattr(project, "straps", None) or ():
        for side in ("edge", "inner"):
            name = getattr(strap, side)
            pad = pads.get(name)
            edges[name] += side == "edge"
            if pad is None:
                yield Problem(
                    say("straps[{strap}].{side}", strap=strap.name, side=side),
                    say("there is no base {name!r}; known: {list}", name=name, list=_list(pads)),
                )
            elif (pad.further or ()) or (pad.kind or "pad") != "pad" or getattr(pad, "replacement", None) is not None:
                yield Problem(
                    say("straps[{strap}].{side}", strap=strap.name, side=side),
                    say("{name} is no pad under one column on the ground itself: a strap ties such pads", name=name),
                )
            elif side == "edge" and edges[name] > 1:
                yield Problem(
                    say("straps[{strap}].edge", strap=strap.name),
                    say(
                        "{name} has a strap already: it may be the inner base of others, the base at the boundary of one alone",
                        name=name,
                    ),
                )
        pairs[frozenset((strap.edge, strap.inner))] += 1
        if pairs[frozenset((strap.edge, strap.inner))] > 1:
            yield Problem(
                say("straps[{strap}]", strap=strap.name),
                say("{edge} and {inner} are tied by a strap already", edge=strap.edge, inner=strap.inner),
            )
        ends = [p for n in (strap.edge, strap.inner) if n in pads and (p := points.get(pads[n].load_point)) is not None]
        known = len(ends) == 2 and all(v is not None for p in ends for v in (p.x, p.y))
        if known and hypot(ends[0].x - ends[1].x, ends[0].y - ends[1].y) < 1.0:
            yield Problem(
                say("straps[{strap}]", strap=strap.name),
                say("the columns of its bases stand less than 1 m apart: join the bases instead"),
            )
        elif known:
            way = degrees(atan2(ends[1].y - ends[0].y, ends[1].x - ends[0].x))
            for name in (strap.edge, strap.inner):
                for other, theirs in ways.setdefault(name, []):
                    askew = abs((way - theirs + 45.0) % 90.0 - 45.0)
                    if askew > ASKEW:
                        yield Problem(
                            say("straps[{strap}]", strap=strap.name),
                            say(
                                "at {name} it runs {askew:.0f} degrees off the line of {other} and the right angle to it: "
                                "straps that meet at a base run in line or at right angles, to {askew_2:g} degrees",
                                name=name,
                                askew=askew,
                                other=other,
                                askew_2=ASKEW,
                            ),
                        )
                ways[name].append((strap.name, way))


ASKEW = 20.0
"""Degrees by which straps that meet at a base may be off one line or a right angle."""


def columns_on_bases(project: Any) -> Iterator[Problem]:
    """Further columns stand on their base, and the first one within it."""
    points = {p.name: p for p in project.actions.load_points or ()}
    for pad in project.pads or ():
        yield from _off_the_base(pad, points)
        for offset, size, axis in (
            (pad.offset_x, pad.width, "x"),
            (pad.offset_y, _length_at(pad, pad.offset_x or 0.0), "y"),
        ):
            if offset is not None and size is not None and abs(offset) > size / 2 > 0:
                yield Problem(
                    f"pads[{pad.name}].offset_{axis}",
                    say(
                        "the column axis would stand {offset:.3g} m outside the pad; at most half its size, {size:.3g} m",
                        offset=abs(offset) - size / 2,
                        size=size / 2,
                    ),
                )
        if None not in (pad.offset_x, pad.offset_y) and _off_the_outline(pad, pad.offset_x, pad.offset_y):
            yield Problem(
                say("pads[{pad}].outline", pad=pad.name),
                say(
                    "the column {load_point} would stand outside the outline: let it go around the column",
                    load_point=pad.load_point,
                ),
            )


def types_of_bases(project: Any) -> Iterator[Problem]:
    """Types are some that there are."""
    types = {t.name for t in project.types or ()}
    for pad in project.pads or ():
        if pad.type is not None and pad.type not in types:
            yield Problem(
                say("pads[{pad}].type", pad=pad.name),
                say("there is no type {type!r}; known: {list}", type=pad.type, list=_list(types)),
            )


def what_stands_on_bases(project: Any) -> Iterator[Problem]:
    """Pedestals belong to columns of their base, are no larger than it and end above it; loads act above its
    underside."""
    points = {p.name: p for p in project.actions.load_points or ()}
    for pad in project.pads or ():
        yield from _standing_on(pad, points)


RULES: tuple[Rule, ...] = (
    names_once,
    soils_of_strata,
    water_levels,
    factors_of_cases,
    bases_of_combinations,
    loads_of_cases,
    construction_in_time,
    columns_of_bases,
    walls_of_strips,
    bases_of_straps,
    columns_on_bases,
    types_of_bases,
    what_stands_on_bases,
)


def _standing_on(pad: Any, points: Any) -> Iterator[Problem]:
    """Pedestals of no column, larger than their base or below its top, and loads that act below the underside."""
    of_others = getattr(pad, "pedestals", None) or {}
    for name in of_others:
        if name not in (pad.further or ()):
            yield Problem(
                say("pads[{pad}].pedestals.{name}", pad=pad.name, name=name),
                say(
                    "{name} is none of the further columns on this base: name one of {list}, or take the pedestal out",
                    name=name,
                    list=_list(pad.further or ()),
                ),
            )
    found = [("pedestal", pad.pedestal), *((f"pedestals.{name}", one) for name, one in of_others.items())]
    for place, pedestal in found:
        if pedestal:
            yield from _pedestal_on(pad, say("pads[{pad}].{place}", pad=pad.name, place=place), pedestal)
    if None in (pad.level, pad.thickness):
        return
    underside = pad.level - (pad.thickness if pad.held == "top" else 0.0)
    for name in (pad.load_point, *(pad.further or ())):
        point = points.get(name)
        level = getattr(point, "level", None)
        if level is not None and level < underside - 1e-9:
            yield Problem(
                say("pads[{pad}].level", pad=pad.name),
                say(
                    "the loads of {name} act at {level:+g} m, below the underside of the base at {underside:+g} m: "
                    "lower the base or correct the level of the loads",
                    name=name,
                    level=level,
                    underside=underside,
                ),
            )


def _pedestal_on(pad: Any, place: str, pedestal: Any) -> Iterator[Problem]:
    """A pedestal larger than its base, or not above it."""
    for axis, size, word in ("x", pad.width, "width"), ("y", pad.length, "length"):
        own = getattr(pedestal, f"size_{axis}")
        if None not in (own, size) and own > size + 1e-9:
            yield Problem(
                f"{place}.size_{axis}",
                say(
                    "the pedestal, {own:g} m, is larger than the {word} of its base, {size:g} m: make the base "
                    "larger or the pedestal smaller",
                    own=own,
                    word=word,
                    size=size,
                ),
            )
    if None not in (pad.level, pad.thickness, pedestal.top):
        top = pad.level + (pad.thickness if pad.held != "top" else 0.0)
        if pedestal.top <= top:
            yield Problem(
                f"{place}.top",
                say(
                    "the pedestal ends at {top:g} m, not above the top of the base at {top_2:g} m",
                    top=pedestal.top,
                    top_2=top,
                ),
            )


def _off_the_base(pad: Any, points: Any) -> Iterator[Problem]:
    """Further columns whose axes stand outside the base."""
    first = points.get(pad.load_point)
    known = (pad.width, pad.length, pad.offset_x, pad.offset_y, pad.rotation)
    if first is None or None in known:
        return
    angle = radians(pad.rotation)
    for name in pad.further or ():
        other = points.get(name)
        if other is None or None in (other.x, other.y, first.x, first.y):
            continue
        dx, dy = other.x - first.x, other.y - first.y
        x = pad.offset_x + cos(angle) * dx + sin(angle) * dy
        y = pad.offset_y - sin(angle) * dx + cos(angle) * dy
        outside = abs(x) > pad.width / 2 + 1e-9 or abs(y) > _length_at(pad, x) / 2 + 1e-9
        if outside or _off_the_outline(pad, x, y):
            yield Problem(
                say("pads[{pad}].further", pad=pad.name),
                say(
                    "{name} stands off the base, {x:+.2f} m and {y:+.2f} m from its middle: make the base larger or move it",
                    name=name,
                    x=x,
                    y=y,
                ),
            )


def _off_the_outline(pad: Any, x: float, y: float) -> bool:
    corners = getattr(pad, "outline", None) or ()
    return len(corners) > 2 and not contains(corners, x, y)


def _length_at(pad: Any, x: float) -> Any:
    """Length of a base there; none where nothing is known yet."""
    if pad.shape != "trapezoid" or None in (pad.width, pad.length, pad.far_length) or not pad.width:
        return pad.length
    return pad.length + (pad.far_length - pad.length) * (x / pad.width + 0.5)


def _list(names: Iterable[str]) -> str:
    return ", ".join(sorted(names)[:8]) or say("none yet")
