"""The loads of a pad in two elevations, and their resultant at the underside."""

from dataclasses import replace

from korbent.core.explain.state import BaseState, Standing
from korbent.core.model import Pad, Project
from korbent.core.units import show, show_length, shown_unit
from korbent.drawing.primitives import Disc, Drawing, Line, Polygon, Sketch, Text, rectangle
from korbent.words import say


def resultant_drawing(project: Project, pad: Pad, state: BaseState | None) -> Drawing:
    """Elevations along x and along y: V of each column and H where they act, the resultant where it meets the
    underside."""
    point = project.load_point(pad.load_point)
    sketch = Sketch()
    several = state is not None and len(state.standing) > 1
    gap = (1.8 if several else 0.9) * max(pad.width, pad.length)
    second = pad.width / 2 + gap + pad.length / 2
    plinth = pad.pedestal.top if pad.pedestal else pad.top
    alone = Standing(
        pad.offset_x, pad.offset_y, point.size_x, point.size_y, point.level, state.column if state else 0.0
    )
    columns = state.standing if state is not None and several else (alone,)
    top = max(*(one.level for one in columns), plinth)
    reach = 0.45 * max(pad.width, pad.length)
    units = project.showing
    force, length = (shown_unit(u, units) for u in ("kN", "m"))
    for middle, size, axis in ((0.0, pad.width, "x"), (second, pad.length, "y")):
        sketch.add(
            Polygon(
                rectangle(middle - size / 2, pad.underside, middle + size / 2, pad.top),
                "concrete",
                "concrete_line",
                1.4,
            ),
            Text((middle, pad.underside), say("along {axis}", axis=axis), 11, "soft", "middle", dy=34),
        )
        # those behind each other stand at one place
        places: dict[float, list[Standing]] = {}
        for one in columns:
            places.setdefault(round(one.x if axis == "x" else one.y, 3), []).append(one)
        x, column = middle, 0.0
        for place, those in sorted(places.items(), reverse=True):
            x = middle + place
            column = max(one.size_x if axis == "x" else one.size_y for one in those)
            sketch.add(
                Polygon(rectangle(x - column / 2, pad.top, x + column / 2, top), "concrete", "concrete_line", 1.2)
            )
            if state is None:
                continue
            V = sum(one.V for one in those)
            ends = ((x, top + reach), (x, top)) if V >= 0 else ((x, top), (x, top + reach))
            sketch.add(Line(ends, "ink", 2.2, arrow=True))
            # of several side by side those at both ends are named, away from each other
            if place == min(places) != max(places):
                written = Text((x, top + reach), "", 11, bold=True, anchor="right", dx=-6, dy=6)
            elif place == max(places):
                written = Text((x, top + reach), "", 11, bold=True, dx=6, dy=6)
            else:
                continue
            sketch.add(replace(written, text=f"V {show(abs(V), 'kN', units)} {force}"))
        if state is None:
            continue
        H, e = (state.Hx, state.e_x) if axis == "x" else (state.Hy, state.e_y)
        if abs(H) > 0.05:
            sign = 1.0 if H > 0 else -1.0
            x = middle + (min(places) if H > 0 else max(places))  # from outside
            tail = x - sign * (column / 2 + reach * 0.8)
            sketch.add(
                Line(((tail, point.level), (x - sign * column / 2, point.level)), "ink", 1.8, arrow=True),
                Text(
                    (tail, point.level),
                    f"H{axis} {show(abs(H), 'kN', units)}",
                    11,
                    "ink",
                    "right" if sign > 0 else "left",
                    dx=-4 * sign,
                    dy=4,
                    halo=True,
                ),
            )
        if state.stable:
            foot = (middle + e, pad.underside)
            lean = H / state.N if state.N else 0.0
            sketch.add(
                Line(((foot[0] - lean * 0.8, pad.underside + 0.8), foot), "beyond", 2.0, arrow=True),
                Disc(foot, 3.5, "beyond", None, fixed=True),
                Text(
                    foot,
                    say(
                        "N {N} {force} at e_{axis} {show_length} {length}",
                        N=show(state.N, "kN", units),
                        force=force,
                        axis=axis,
                        show_length=show_length(e, units),
                        length=length,
                    ),
                    11,
                    "beyond",
                    "middle",
                    bold=True,
                    dy=17,
                    halo=True,
                ),
            )
        else:
            sketch.add(
                Text(
                    (middle, pad.underside),
                    say("resultant outside the base"),
                    11,
                    "beyond",
                    "middle",
                    bold=True,
                    dy=17,
                )
            )
    high = top + 0.55 * max(pad.width, pad.length)
    return Drawing(
        tuple(sketch.shapes),
        (-pad.width / 2, pad.underside, second + pad.length / 2, high),
    )
