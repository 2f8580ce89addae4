"""What a file proposes for the ground: shown first, taken over as a whole, one step of undo."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from itertools import zip_longest
from typing import Any

from pydantic import ValidationError

from korbent.core.model import Borehole, Problem, Project, Soil, Stratum, Surfaces, Water
from korbent.files.project_file import problems_of
from korbent.words import say


@dataclass(frozen=True)
class Proposal:
    """Soils, holes and water from a file. ``problems`` say what was left out and where, ``remarks`` what was
    decided."""

    soils: tuple[Soil, ...] = ()
    boreholes: tuple[Borehole, ...] = ()
    water: Water | None = None
    site: Mapping[str, Any] = field(default_factory=dict)
    """Other fields of the ground: surfaces, backfill, notes."""
    title: str = ""
    problems: tuple[Problem, ...] = ()
    remarks: tuple[str, ...] = ()
    shift: tuple[float, float] = (0.0, 0.0)
    """What was subtracted from the coordinates of the file, m."""
    given: dict[str, tuple[str, ...]] = field(default_factory=dict)
    """Fields of each soil that the file gives; without an entry a soil is only described, not measured."""

    @property
    def is_empty(self) -> bool:
        """Nothing can be taken over."""
        return not (self.soils or self.boreholes or self.site)


def proposed(project: Project, proposal: Proposal) -> Project:
    """The project with what a file proposes. Soils that are known keep the parameters that the file does not give.

    A hole of the same name is replaced; other holes and soils stay.

    Raises:
        pydantic.ValidationError: when both do not fit together.
    """
    ground = project.ground
    soils = {s.name: s for s in ground.soils}
    for soil in proposal.soils:
        known = soils.get(soil.name)
        if known is None:
            soils[soil.name] = soil
        elif soil.name in proposal.given:
            fields = proposal.given[soil.name]
            sources = {k: v for k, v in known.sources.items() if k not in fields}
            sources |= {k: v for k, v in soil.sources.items() if k in fields or "sources" in fields}
            # a value that the file gives no longer comes from an expression, unless the file has it
            own = {**soil.expressions} if "expressions" in fields else {}
            expressions = {k: v for k, v in known.expressions.items() if k not in fields} | own
            changes = {f: getattr(soil, f) for f in fields} | {"sources": sources, "expressions": expressions}
            soils[soil.name] = known.replaced(**changes)
        else:
            soils[soil.name] = known.replaced(description=soil.description or known.description)
    holes = {h.name: h for h in ground.boreholes}
    holes.update({h.name: _completed(h, holes.get(h.name)) for h in proposal.boreholes})
    surfaces = ground.surfaces
    if not ground.boreholes and proposal.boreholes and surfaces == Surfaces():
        # an empty project stands at level 0: its ground goes up to where the investigation found it
        levels = sorted(h.ground_level for h in proposal.boreholes)
        surfaces = surfaces.replaced(finished=round(levels[len(levels) // 2], 2))
    return project.replaced(
        ground=ground.replaced(
            **{"water": proposal.water or ground.water, "surfaces": surfaces} | {**proposal.site},
            soils=tuple(soils.values()),
            boreholes=tuple(holes.values()),
        )
    )


def _completed(hole: Borehole, old: Borehole | None) -> Borehole:
    """A hole from a file with what files do not know of the one it replaces: readings over time, notes, rigid ground
    below.

    Tests that are the same in another order keep the order that they had.
    """
    if old is None:
        return hole
    known = {(o.sample, o.depth): o for o in old.oedometers}
    oedometers = tuple(
        o
        if o.readings or (o.sample, o.depth) not in known
        else o.replaced(readings=known[(o.sample, o.depth)].readings)
        for o in hole.oedometers
    )
    same = sorted(map(str, hole.tests)) == sorted(map(str, old.tests))
    return hole.replaced(
        oedometers=oedometers,
        rigid_below=hole.rigid_below or old.rigid_below,
        water=old.water if hole.water is None else hole.water,
        notes={**old.notes, **hole.notes},
        strata=_with_their_notes(hole.strata, old.strata),
        tests=old.tests if same else hole.tests,
    )


def _with_their_notes(new: tuple[Stratum, ...], old: tuple[Stratum, ...]) -> tuple[Stratum, ...]:
    """Strata as in the file; where one is the same as before, with what was noted on it."""
    return tuple(
        b
        if b is not None and not a.notes and not a.expressions and (a.soil, a.thickness) == (b.soil, b.thickness)
        else a
        for a, b in zip_longest(new, old[: len(new)])
        if a is not None
    )


def differences_to(project: Project, proposal: Proposal) -> list[str]:
    """What taking over would change, a line each."""
    ground = project.ground
    known_soils, known_holes = {s.name: s for s in ground.soils}, {h.name: h for h in ground.boreholes}
    lines = []
    for soil in proposal.soils:
        if soil.name not in known_soils:
            lines.append(say("new soil {soil}", soil=soil.name))
    for hole in proposal.boreholes:
        old = known_holes.get(hole.name)
        hole = _completed(hole, old)
        if old is None:
            lines.append(
                say(
                    "new borehole {hole}: {strata} strata, {tests} tests",
                    hole=hole.name,
                    strata=len(hole.strata),
                    tests=len(hole.tests),
                )
            )
        elif old != hole:
            lines.append(
                say(
                    "{hole} replaced: {strata} strata, {tests} tests become {hole_strata}, {hole_tests}",
                    hole=hole.name,
                    strata=len(old.strata),
                    tests=len(old.tests),
                    hole_strata=len(hole.strata),
                    hole_tests=len(hole.tests),
                )
            )
        else:
            lines.append(say("{hole} stays as it is", hole=hole.name))
    if proposal.water and proposal.water != ground.water:
        w = proposal.water
        lines.append(
            say(
                "water low {low:+.2f}, normal {normal:+.2f}, high {high:+.2f} m",
                low=w.low,
                normal=w.normal,
                high=w.high,
            )
        )
    names = {"spt_energy": say("SPT energy")}
    lines += [say("{what} changed", what=names.get(k, k)) for k, v in proposal.site.items() if v != getattr(ground, k)]
    return lines


def misfit(project: Project, proposal: Proposal) -> list[Problem]:
    """Why the proposal cannot be taken over as it is; nothing when it can."""
    try:
        proposed(project, proposal)
    except ValidationError as error:
        return problems_of(error)
    return []
