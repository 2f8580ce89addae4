"""Ground: logs, section, levels, parameters and where they come from."""

from korbent.core.evaluate import Results
from korbent.core.model import Project, Soil
from korbent.core.model.labels import label
from korbent.core.units import Showing, length_text, show, show_length, shown_unit
from korbent.drawing.ground_section import ground_section, usual_line
from korbent.drawing.logs import logs_drawing
from korbent.sheets.calculation.blocks import Block, Figure, Heading, Para, Table
from korbent.sheets.calculation.words import quantity
from korbent.words import say


def ground(project: Project, results: Results) -> list[Block]:
    """The chapter."""
    u, own = project.showing, project.ground
    found: list[Block] = [Heading(say("Ground"), 1, "ground")]
    if own.boreholes:
        found.append(Figure(logs_drawing(project, 2.6), 66, say("Boreholes")))
        if len(own.boreholes) > 1:
            found.append(
                Figure(ground_section(project, usual_line(project), 2.6), 64, say("Section through the boreholes"))
            )
    levels = [
        (say("finished ground"), own.surfaces.finished),
        (say("excavated"), own.surfaces.excavated),
        (say("existing"), own.surfaces.existing),
    ]
    if own.water:
        levels += [(say("{level} water", level=label(n)), getattr(own.water, n)) for n in ("low", "normal", "high")]
    said = ", ".join(f"{name} {length_text(z, u)}" for name, z in levels if z is not None)
    found.append(Para(say("Levels: {said}.", said=said)))
    if not own.soils:
        return found
    weight, pressure = shown_unit("kN/m3", u), shown_unit("kPa", u)
    head = (
        say("Soil"),
        say("γ / γ sat, {weight}", weight=weight),
        f"c′, {pressure}",
        "φ′, °",
        f"cu, {pressure}",
        f"E′, {pressure}; ν",
        "Cc, Cr, e0, OCR",
        say("checked"),
        say("settles by"),
    )
    rows = tuple(
        (
            s.name,
            f"{quantity(s.weight, 'kN/m3', u)} / {quantity(s.weight_saturated, 'kN/m3', u)}",
            quantity(s.cohesion, "kPa", u),
            quantity(s.friction_angle, "", u),
            quantity(s.undrained_strength, "kPa", u),
            f"{quantity(s.modulus, 'kPa', u)}; {s.poisson:g}" if s.modulus else "–",
            oedometer_words(s, u),
            label(s.drainage),
            label(s.compression),
        )
        for s in own.soils
    )
    found += [
        Heading(say("Parameters"), 2, "parameters"),
        Table(head, rows, (25, 22, 12, 11, 13, 25, 32, 16, 18)),
        Para(
            say(
                "Backfill {backfill}: {quantity} / {backfill_quantity} {weight}.",
                backfill=own.backfill.name,
                quantity=quantity(own.backfill.weight, "kN/m3", u),
                backfill_quantity=quantity(own.backfill.weight_saturated, "kN/m3", u),
                weight=weight,
            ),
            small=True,
        ),
    ]
    sources = tuple(
        (s.name, label(name), text) for s in own.soils for name, text in [*s.sources.items(), *s.notes.items()] if text
    )
    if sources:
        found += [
            Heading(say("Where they come from"), 2, "sources"),
            Table((say("Soil"), say("Parameter"), say("Source or note")), sources, (32, 42, 100)),
        ]
    lines = tuple(
        (s.name, label(name), ", ".join(f"{show_length(z, u)}: {show(v, '', u)}" for z, v in line.points))
        for s in own.soils
        for name, line in s.over_level.items()
    )
    if lines:
        found.append(
            Table((say("Soil"), say("Parameter over level"), say("level: value, in SI units")), lines, (32, 42, 100))
        )
    return found


def oedometer_words(s: Soil, units: Showing) -> str:
    """Compression, recompression and past of a soil as they are given."""
    first = (
        f"{s.compression_index:g}"
        if s.compression_index
        else f"Cc/(1+e0) {s.compression_ratio:g}"
        if s.compression_ratio
        else ""
    )
    again = (
        f"{s.recompression_index:g}"
        if s.recompression_index
        else f"Cr/Cc {s.recompression_share:g}"
        if s.recompression_share
        else ""
    )
    past = f"{s.overconsolidation_ratio:g}"
    if s.preconsolidation is not None:
        past = f"σ′p {quantity(s.preconsolidation, 'kPa', units)}"
    if s.preconsolidation_margin is not None:
        past = f"σ′p − σ′v0 {quantity(s.preconsolidation_margin, 'kPa', units)}"
    void = f"{s.void_ratio:g}" if s.void_ratio else ""
    return ", ".join(part for part in (first, again, void, past) if part) if first and again else "–"
