"""Shears and moments along the base as envelopes over all situations."""

from korbent.core.concrete.demand import BeamLine
from korbent.core.model.labels import label
from korbent.core.units import Showing, show, show_length, shown_unit
from korbent.drawing.primitives import Anchor, Drawing, Line, Point, Polygon, Sketch, Text, rectangle
from korbent.words import say

WIDE = 10.0


def place_on(found: BeamLine, x: float) -> float:
    """The place along the beam of a place of its drawing, m."""
    return found.at[0] + x / WIDE * (found.at[-1] - found.at[0])


def _of_other(found: BeamLine, title: str) -> tuple[tuple[float, ...], ...]:
    """Least and greatest by the other method; nothing where there is none."""
    other = found.other
    if other is None or title == "torsion":
        return ()
    return (other.shear_least, other.shear_most) if title == "shear" else (other.moment_least, other.moment_most)


def beam_line_drawing(found: BeamLine | None, units: Showing, aspect: float, said: str = "") -> Drawing:
    """``said``: more words below, on lines of their own where it begins with a new one. Shear above, moment below drawn
    on the side in tension; columns as bands; extremes with their numbers."""
    if found is None:
        text = say("no moments along this base: it is round, lifts off, or there is nothing to check it by")
        return Drawing((Text((0, 0), text, 12, "soft", "middle"),), (-1.0, -1.0, 1.0, 1.0))
    high = WIDE / max(aspect, 0.5)
    size = found.at[-1] - found.at[0]
    sketch = Sketch()

    def along(s: float) -> float:
        return WIDE * (s - found.at[0]) / size

    together: dict[float, list[str]] = {}
    for name, middle, wide in found.columns:
        x0, x1 = along(middle - wide / 2), along(middle + wide / 2)
        sketch.add(Polygon(rectangle(x0, 0, x1, high), "faint", None))
        together.setdefault(round(along(middle), 2), []).append(name)
    for x, names in together.items():  # columns in one line across share a place
        sketch.add(Text((x, high), " ".join(names), 10, "soft", "middle", dy=-14))
    twisted = any(abs(v) > 1e-9 for v in (*found.twist_least, *found.twist_most))
    # what pulls the underside is drawn below
    charts = [
        ("shear", "kN", found.shear_least, found.shear_most, 0.77 * high, 0.17 * high, 1.0),
        ("moment", "kNm", found.moment_least, found.moment_most, 0.29 * high, 0.20 * high, -1.0),
    ]
    between = [0.52 * high]
    if twisted:
        charts = [
            ("shear", "kN", found.shear_least, found.shear_most, 0.84 * high, 0.11 * high, 1.0),
            ("moment", "kNm", found.moment_least, found.moment_most, 0.50 * high, 0.13 * high, -1.0),
            ("torsion", "kNm", found.twist_least, found.twist_most, 0.16 * high, 0.10 * high, 1.0),
        ]
        between = [0.68 * high, 0.31 * high]
    for title, unit, least, most, zero, room, sign in charts:
        beside = _of_other(found, title)
        greatest = max(abs(v) for v in (*least, *most, *(v for row in beside for v in row))) or 1.0

        def place(s: float, v: float, zero: float = zero, k: float = sign * room / greatest) -> Point:
            return along(s), zero + k * v

        upper = tuple(place(s, v) for s, v in zip(found.at, most))
        lower = tuple(place(s, v) for s, v in zip(found.at, least))
        colour = f"steel_{found.axis}"
        above, under = (
            ("", "") if title == "torsion" else (f"check:{found.keys[0 if title == 'shear' else k]}" for k in (1, 2))
        )
        sketch.add(
            Polygon((*upper, *lower[::-1]), "accent_wash", None),
            Line((place(found.at[0], 0.0), place(found.at[-1], 0.0)), "ink", 1.2),
            Line(upper, colour, 1.8, key=above),
            Line(lower, colour, 1.8, key=under),
        )
        for row in beside:
            dashed = tuple(place(s, v) for s, v in zip(found.other.at, row)) if found.other else ()
            sketch.add(Line(dashed, "ink", 1.0, dash=True))
        for values, best in ((most, max(most)), (least, min(least))):
            if abs(best) < 0.02 * greatest:
                continue
            i = values.index(best)
            text = f"{show(best, unit, units)} {shown_unit(unit, units)}"
            below = sign * best < 0
            anchor: Anchor = "left" if i < len(values) * 0.15 else "right" if i > len(values) * 0.85 else "middle"
            sketch.add(
                Text(
                    place(found.at[i], best),
                    text,
                    11,
                    "ink",
                    anchor,
                    bold=True,
                    dy=13 if below else -5,
                    halo=True,
                )
            )
        sketch.add(Text((0, zero), label(title), 11, "soft", dy=-4, dx=-46))
    sketch.add(*(Line(((0, y), (WIDE, y)), "faint", 1.0) for y in between))
    unit = shown_unit("m", units)
    sketch.add(
        Text((0, 0), f"{show_length(found.at[0], units)} {unit}", 10, "soft", dy=14),
        Text((WIDE, 0), f"{show_length(found.at[-1], units)} {unit}", 10, "soft", "right", dy=14),
    )
    first = f"{found.title} · " if found.title else say("whole width, ")
    more = "" if not said else said if said.startswith("\n") else f" · {said}"
    for k, text in enumerate(say("{first}moments where they pull{more}", first=first, more=more).split("\n")):
        sketch.add(Text((WIDE / 2, 0), text, 10, "soft", "middle", dy=28 + 14 * k))
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high))
