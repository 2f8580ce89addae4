"""The loads of a pad in two elevations, and their resultant at the underside."""

from korbent.core.explain.state import BaseState, Standing
from korbent.core.model import Pad, Project
from korbent.core.units import UnitSet, show, show_length, shown_unit
from korbent.drawing.primitives import Anchor, Disc, Drawing, Line, Point, Polygon, Sketch, Text, rectangle
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
        column = 0.0
        for place, those in sorted(places.items(), reverse=True):
            x, column = middle + place, max(one.size_x if axis == "x" else one.size_y for one in those)
            outline = rectangle(x - column / 2, pad.top, x + column / 2, top)
            sketch.add(Polygon(outline, "concrete", "concrete_line", 1.2))
            if state is not None:
                # of several side by side those at both ends are named, away from each other
                side = -1 if place == min(places) != max(places) else 1 if place == max(places) else 0
                _vertical(sketch, (x, top), reach, sum(one.V for one in those), side, units)
        if state is not None:
            H = state.Hx if axis == "x" else state.Hy
            if abs(H) > 0.05:
                x = middle + (min(places) if H > 0 else max(places))  # from outside
                _horizontal(sketch, (x, point.level), column / 2, reach, H, axis, units)
            _at_underside(sketch, (middle, pad.underside), state, axis, units)
    high = top + 0.55 * max(pad.width, pad.length)
    return Drawing(
        tuple(sketch.shapes),
        (-pad.width / 2, pad.underside, second + pad.length / 2, high),
    )


def _vertical(sketch: Sketch, foot: Point, reach: float, V: float, side: int, units: UnitSet) -> None:
    """V of columns, from above, or pulling up; named to the left (-1), to the right (1) or not (0)."""
    x, top = foot
    ends = ((x, top + reach), (x, top)) if V >= 0 else ((x, top), (x, top + reach))
    sketch.add(Line(ends, "ink", 2.2, arrow=True))
    if side:
        text = f"V {show(abs(V), 'kN', units)} {shown_unit('kN', units)}"
        sketch.add(
            Text((x, top + reach), text, 11, bold=True, anchor="right" if side < 0 else "left", dx=6 * side, dy=6)
        )


def _horizontal(sketch: Sketch, at: Point, half: float, reach: float, H: float, axis: str, units: UnitSet) -> None:
    """H at its level, pushing at the face of a column."""
    sign = 1.0 if H > 0 else -1.0
    tail = at[0] - sign * (half + reach * 0.8)
    text = f"H{axis} {show(abs(H), 'kN', units)}"
    side: Anchor = "right" if sign > 0 else "left"
    sketch.add(
        Line(((tail, at[1]), (at[0] - sign * half, at[1])), "ink", 1.8, arrow=True),
        Text((tail, at[1]), text, 11, "ink", side, dx=-4 * sign, dy=4, halo=True),
    )


def _at_underside(sketch: Sketch, middle: Point, state: BaseState, axis: str, units: UnitSet) -> None:
    """Where the resultant meets the underside."""
    H, e = (state.Hx, state.e_x) if axis == "x" else (state.Hy, state.e_y)
    if not state.stable:
        text = say("resultant outside the base")
        sketch.add(Text(middle, text, 11, "beyond", "middle", bold=True, dy=17))
        return
    foot = (middle[0] + e, middle[1])
    lean = H / state.N if state.N else 0.0
    text = say(
        "N {N} {force} at e_{axis} {show_length} {length}",
        N=show(state.N, "kN", units),
        force=shown_unit("kN", units),
        axis=axis,
        show_length=show_length(e, units),
        length=shown_unit("m", units),
    )
    sketch.add(
        Line(((foot[0] - lean * 0.8, foot[1] + 0.8), foot), "beyond", 2.0, arrow=True),
        Disc(foot, 3.5, "beyond", None, fixed=True),
        Text(foot, text, 11, "beyond", "middle", bold=True, dy=17, halo=True),
    )
