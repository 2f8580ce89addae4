"""Bases: a page for each type by its worst member (or for each base), with drawings, checks, and the other members in a
table."""

from korbent.core.checks import GROUPS, CheckResult, State
from korbent.core.concrete.bar_text import words
from korbent.core.evaluate import PadResult, Results
from korbent.core.explain.raft import FIELDS, raft_field
from korbent.core.explain.rib import along_rib
from korbent.core.explain.state import BaseState, base_state
from korbent.core.explain.strap import along_strap
from korbent.core.model import Pad, Project
from korbent.core.model.labels import label
from korbent.core.model.plate import Plate, Region
from korbent.core.model.reinforcement import FACES
from korbent.core.units import SUBGRADE, Showing, length_text, show, show_length, shown_unit, sizes_text
from korbent.drawing.beam_line import beam_line_drawing
from korbent.drawing.pressure import pressure_drawing
from korbent.drawing.raft import raft_drawing
from korbent.drawing.reinforcement import from_above
from korbent.drawing.section import section_drawing
from korbent.drawing.words import size_words, under_words
from korbent.sheets.calculation.blocks import Block, Cell, Entry, Figure, Heading, Para, Row, Table
from korbent.sheets.calculation.words import own_settings, ratio_words
from korbent.sheets.types import Kind, kinds_built
from korbent.words import say

WIDE = 174.0


def bases(project: Project, results: Results, by_type: bool) -> list[Block]:
    """The chapter: pages, then straps."""
    if not project.pads:
        return []
    found: list[Block] = [Heading(say("Bases"), 1, "bases")]
    kinds = kinds_built(project) if by_type else tuple(Kind(p.name, (p,)) for p in project.pads)
    for k, kind in enumerate(kinds):
        found += _page(project, kind, results, first=k == 0)
    return [*found, *straps(project, results)]


def worst_member(kind: Kind, results: Results) -> Pad:
    """The member of a kind whose worst check is the worst; one that cannot be judged comes first."""

    def rank(pad: Pad) -> tuple[int, float]:
        worst = results.pad(pad.name).worst
        bad = {State.UNSTABLE: 3, State.CANNOT: 2, State.FAILS: 1}.get(worst.state, 0)
        return bad, worst.ratio or 0.0

    return max(kind.members, key=rank)


def _page(project: Project, kind: Kind, results: Results, first: bool) -> list[Block]:
    pad = worst_member(kind, results)
    title = pad.name if kind.name == pad.name else f"{kind.name}: {pad.name}"
    found: list[Block] = [Heading(title, 2, f"base-{pad.name}", page=not first)]
    found += base_blocks(project, pad, results)
    others = [p for p in kind.members if p.name != pad.name]
    if others:
        groups = [g for g in GROUPS if any(results.pad(p.name).worst_in(g) for p in kind.members)]
        rows: list[tuple[Entry, ...]] = []
        for p in others:
            result = results.pad(p.name)
            cells: list[Entry] = []
            for group in groups:
                own = result.worst_in(group)
                text = "–" if own is None else ratio_words(own) if own.ratio is not None else own.state.word
                cells.append(Cell(text, beyond=own is not None and own.state in (State.FAILS, State.UNSTABLE)))
            rows.append(
                (p.name, under_words(p), show_length(p.underside, project.showing), *cells, result.worst.check.title)
            )
        wide = 80.0 / max(len(groups), 1)
        found += [
            Para(say("Built alike, {pad} being the worst: its page stands for all.", pad=pad.name), small=True),
            Table(
                (say("Base"), say("Under"), say("Level"), *map(label, groups), say("Worst check")),
                tuple(rows),
                (20, 24, 18, *([wide] * len(groups)), 32),
                tuple(range(2, 3 + len(groups))),
            ),
        ]
    return found


def base_blocks(project: Project, pad: Pad, results: Results) -> list[Block]:
    """What the page of one base holds below its name."""
    result = results.pad(pad.name)
    u = project.showing
    unit = shown_unit("m", u)
    r = pad.reinforcement
    us = u.system == "us"
    line = say(
        "{kind} under {under}, {sizes}, founded at {length} {unit}",
        kind=label(pad.kind).capitalize(),
        under=under_words(pad),
        sizes=size_words(pad, u),
        length=show_length(pad.underside, u),
        unit=unit,
    )
    if pad.type:
        line += say(", type {type}", type=pad.type)
    bars = ", ".join(f"{label(face)} {words(r.bars(face), us)}" for face in FACES if r.bars(face))
    found: list[Block] = [Para(line), Para(bars)]
    if pad.plate is not None:
        found.append(Para(plate_text(pad.plate, u)))
    own = {**project.type_overrides(pad), **pad.overrides}
    if own:
        found.append(Para(say("Own settings: ") + own_settings(project, own), small=True))
    state = governing_state(project, pad, result)
    under = say(", combination {label}", label=state.label) if state else ""
    if pad.kind == "raft":
        drawn = [
            Figure(
                raft_drawing(project, pad, result, raft_field(project, pad, name, "")),
                78,
                f"{label(name)}: {FIELDS[name][1]}, {FIELDS[name][0]}",
            )
            for name in ("m_x", "m_y", "pressure", "settlement")
        ]
        found += [Row(tuple(drawn[:2])), Row(tuple(drawn[2:]))]
        for rib in pad.plate.ribs if pad.plate else ():
            along = along_rib(project, pad, rib.name)
            if not isinstance(along, str):
                found.append(
                    Figure(
                        beam_line_drawing(along, u, WIDE / 40),
                        40,
                        say("Rib {rib}: shear and moment, all situations", rib=rib.name),
                    )
                )
    else:
        found.append(
            Row(
                (
                    Figure(from_above(project, pad, result, named=False), 36, say("Base from above")),
                    Figure(
                        pressure_drawing(project, pad, state),
                        36,
                        say("Pressure, {unit}{under}", unit=shown_unit("kPa", u), under=under),
                    ),
                )
            )
        )
    found.append(
        Figure(section_drawing(project, pad, state, aspect=WIDE / 35), 35, say("Section along x{under}", under=under))
    )
    found.append(ledger(result, u))
    return found


def ledger(result: PadResult, units: Showing) -> Table:
    """The checks of a base by group, each with a link to its working."""
    rows: list[tuple[Entry, ...]] = []
    for check in (c for g in GROUPS for c in result.checks if c.check.group == g):
        if check.state is State.NOT_APPLICABLE:
            continue
        demand, capacity, unit = sides(check, units)
        beyond = check.ratio is not None and check.ratio > 1
        rows.append(
            (
                Cell(check.check.title, f"w-{result.name}-{check.check.id}", beyond),
                Cell(ratio_words(check), beyond=beyond),
                demand,
                capacity,
                unit,
                check.combination,
                check.state.word,
                check.check.reference,
            )
        )
    head = (
        say("Check"),
        say("Ratio"),
        say("Demand"),
        say("Capacity"),
        say("Unit"),
        say("Comb."),
        say("State"),
        say("Reference"),
    )
    return Table(head, tuple(rows), (40, 11, 16, 17, 15, 24, 24, 27), (1, 2, 3), tight=True)


def sides(check: CheckResult, units: Showing) -> tuple[str, str, str]:
    """(demand, capacity, unit) of a check as they are shown; a factor of safety with what is asked for."""
    unit = check.check.unit
    if check.required_factor is not None and check.factor is not None:
        return f"{check.factor:.2f}", f"≥ {check.required_factor:.2f}", "FS"
    demand, capacity = ("" if v is None else show(v, unit, units) for v in (check.demand, check.capacity))
    return demand, capacity, shown_unit(unit, units)


def governing_state(project: Project, pad: Pad, result: PadResult) -> BaseState | None:
    """The situation in which the base is drawn."""
    names = (
        "presumed-pressure",
        "eccentricity",
        "resistance-drained",
        "resistance-undrained",
        "resistance-bounds-drained",
        "resistance-bounds-undrained",
        "punching",
    )
    for name in names:
        check = next((c for c in result.checks if c.check.id == name), None)
        if check is not None and check.question:
            return base_state(project, pad, check.question, check.situation)
    return None


def plate_text(plate: Plate, u: Showing) -> str:
    """What a raft rests on, and what it has in regions: from and to along x, then along y, from its middle."""
    m, per_m, kpa = (shown_unit(unit, u) for unit in ("m", SUBGRADE, "kPa"))

    def box(region: Region) -> str:
        x0, x1, y0, y1 = (show_length(v, u) for v in region.box)
        return say("{x0} to {x1}, {y0} to {y1} {m}", x0=x0, x1=x1, y0=y0, y1=y1, m=m)

    if plate.ground == "layers":
        parts = [say("rests on the strata themselves")]
    elif plate.subgrade is not None:
        parts = [say("rests on springs of {subgrade} {per_m}", subgrade=show(plate.subgrade, SUBGRADE, u), per_m=per_m)]
    else:
        parts = [say("rests on springs of the pressure over the settlement by the strata")]
    if plate.ground == "springs":
        parts += [f"{show(z.subgrade, SUBGRADE, u)} {per_m} in {box(z)}" for z in plate.zones]
    if plate.greatest is not None:
        parts.append(say("the ground gives at most {greatest} {kpa}", greatest=show(plate.greatest, "kPa", u), kpa=kpa))
    if not plate.lifts:
        parts.append(say("springs pull too"))
    if plate.walls is not None:
        parts.append(say("concrete walls {length} high stiffen it", length=length_text(plate.walls, u)))
    if plate.creep:
        parts.append(say("creep {creep:g}: strength with E and with E/(1 + φ)", creep=plate.creep))
    parts += [say("opening {box}", box=box(r)) for r in plate.openings]
    parts += [say("{length} thick in {box}", length=length_text(t.thickness, u), box=box(t)) for t in plate.thickenings]
    parts += [say("{length} lower in {box}", length=length_text(t.drop, u), box=box(t)) for t in plate.lower]
    us = u.system == "us"
    parts += [
        say(
            "rib {r} along {axis} at {length}, {sizes} {side}, top {top}, bottom {bottom}",
            r=r.name,
            axis=r.axis,
            length=length_text(r.at, u),
            sizes=sizes_text((r.width, r.depth), u),
            side=label(r.side),
            top=words(r.top, us),
            bottom=words(r.bottom, us),
        )
        + (say(", {legs} legs {links}", legs=r.legs, links=words(r.links, us)) if r.links else "")
        for r in plate.ribs
    ]
    parts += [
        say("added {face} {bars} in {box}", face=label(a.face), bars=words(a.bars, us), box=box(a)) for a in plate.added
    ]
    parts += [
        say("{case} {pressure} {kpa} on {box}", case=q.case, pressure=show(q.pressure, "kPa", u), kpa=kpa, box=box(q))
        for q in plate.loads
    ]
    return say("Plate: ") + "; ".join(parts)


def straps(project: Project, results: Results) -> list[Block]:
    """The beams between tied bases, with their bars and checks."""
    if not project.straps:
        return []
    units, us = project.showing, project.units == "us"
    rows: list[tuple[Entry, ...]] = []
    for strap in project.straps:
        checks = {c.check.id: c for c in results.pad(strap.edge).checks}
        ratios: list[Entry] = [
            Cell(ratio_words(own), beyond=(own.ratio or 0) > 1) if (own := checks.get(f"strap-{name}")) else "–"
            for name in ("top", "bottom", "shear")
        ]
        links = say("{links}, {legs} legs", links=words(strap.links, us), legs=strap.legs) if strap.links else "none"
        rows.append(
            (
                strap.name,
                strap.edge,
                strap.inner,
                sizes_text((strap.width, strap.depth), units, unit=False),
                words(strap.top, us) or "",
                words(strap.bottom, us) or "",
                links,
                *ratios,
            )
        )
    head = (
        say("Strap"),
        say("Boundary base"),
        say("Inner base"),
        f"b × h, {shown_unit('m', units)}",
        say("Top"),
        say("Bottom"),
        say("Links"),
        say("Top"),
        say("Bottom"),
        say("Shear"),
    )
    found: list[Block] = [
        Heading(say("Straps"), 2, "straps"),
        Table(head, tuple(rows), (12, 22, 18, 24, 17, 17, 30, 11, 12, 11), (7, 8, 9)),
    ]
    for strap in project.straps:
        line = along_strap(project, project.pad(strap.edge))
        if line is not None:
            title = say("{strap}: shear and moment along the beam, all situations", strap=strap.name)
            found.append(Figure(beam_line_drawing(line, units, WIDE / 46), 46, title))
    return found
