"""General notes: concrete, steel, ground, levels."""

from korbent.core.concrete.bar_text import diameter_words
from korbent.core.model import Project
from korbent.core.units import length_text, show, shown_unit
from korbent.drawing.logs import signed
from korbent.sheets.details import BLINDING
from korbent.words import say


def general_notes(project: Project) -> tuple[str, ...]:
    """Grades, exposure, cover, laps, and what is to be confirmed on site."""
    s, u = project.settings, project.showing
    code = project.standards.concrete
    exposure = s.exposure_en if code.startswith("EN") else s.exposure_as if code.startswith("AS") else ""
    unit_mm, mpa = shown_unit("mm", u), shown_unit("MPa", u)
    lengths = say("feet and inches") if project.units == "us" or project.showing.feet_and_inches else "mm"
    found = [
        say("Levels in {unit}, dimensions in {lengths}.", unit=shown_unit("m", u), lengths=lengths),
        say("Concrete {concrete_strength} {mpa}", concrete_strength=show(s.concrete_strength, "MPa", u), mpa=mpa)
        + (say(", exposure {exposure}", exposure=exposure) if exposure else "")
        + ".",
        say("Reinforcement {steel_strength} {mpa}.", steel_strength=show(s.steel_strength, "MPa", u), mpa=mpa),
        say(
            "Cover {concrete_cover} {unit_mm} where nothing else is said; {outer_bars} bars outside.",
            concrete_cover=show(1000 * s.concrete_cover, "mm", u),
            unit_mm=unit_mm,
            outer_bars=s.outer_bars,
        ),
        say(
            "Blinding below all bases, drawn {blinding} {unit_mm} thick.",
            blinding=show(1000 * BLINDING, "mm", u),
            unit_mm=unit_mm,
        )
        if s.cast_against == "blinding"
        else say("Bases are cast against the ground."),
        say("Bars: number ø - spacing - mark of the schedule."),
    ]
    laps = {}
    for pad in project.pads:
        if pad.dowels:
            from korbent.core.concrete.schedule import lap_of

            laps[pad.dowels.diameter] = lap_of(project, pad, pad.dowels.diameter)
    if laps:
        said = ", ".join(
            f"{diameter_words(d, u.system == 'us')} {length_text(v, u, False)}" for d, v in sorted(laps.items())
        )
        found.append(say("Laps of dowels, {unit}: {said}.", unit=shown_unit("m", u), said=said))
    assumed = _assumed(project)
    if assumed:
        found.append(assumed)
    if any(p.anchors is not None for p in project.actions.load_points):
        found.append(say("Base plates and anchor bolts as the steelwork gives them; they are drawn, not checked here."))
    found.append(say("Levels of the formation and the ground met there are to be confirmed on site before concreting."))
    return tuple(found)


def _assumed(project: Project) -> str:
    """The bearing that was assumed, and at which levels."""
    u = project.showing
    levels = sorted({round(p.underside, 2) for p in project.pads})
    if not levels:
        return ""
    unit = shown_unit("m", u)
    where = f"{signed(levels[0], u)}" + (say(" to {level}", level=signed(levels[-1], u)) if len(levels) > 1 else "")
    strata = _founded_on(project)
    return (
        say("Founded at {where} {unit}", where=where, unit=unit)
        + (say(" on {strata}", strata=strata) if strata else "")
        + "."
    )


def _founded_on(project: Project) -> str:
    from korbent.core.ground.below import profile_below
    from korbent.core.ground.profile import strata_of

    names: dict[str, None] = {}
    for pad in project.pads:
        profile = profile_below(project.ground, pad, project.load_point(pad.load_point))
        if profile is None:
            continue
        for soil, top, bottom in strata_of(profile):
            if bottom < pad.underside - 1e-6 <= top:
                names[soil.name] = None
                break
    return ", ".join(names)
