"""A drawing (DXF) below the plan: its lines as an underlay, its points, circles and blocks as places of columns."""

import math
from dataclasses import dataclass
from pathlib import Path

from korbent.core.model.actions import LoadPoint
from korbent.core.model.project import Project
from korbent.core.model.site import Outline
from korbent.files.watched import counted
from korbent.words import say

UNITS = {1: 0.0254, 2: 0.3048, 4: 1e-3, 5: 1e-2, 6: 1.0, 14: 0.1}
"""Metres to one unit of the drawing, by its header's $INSUNITS."""
MOST_LINES = 5000
FLATTENING = 0.02
"""How far a curve may lie off its chords, m."""


class UnderlayError(Exception):
    """A drawing that cannot be used."""


@dataclass(frozen=True)
class Underlay:
    """What a drawing gives, m."""

    outlines: tuple[Outline, ...]
    points: tuple[tuple[float, float, float], ...]
    """x, y and diameter (0 where none is drawn) of what may be columns."""
    remarks: tuple[str, ...]


def read_underlay(path: Path, unit: float | None = None) -> Underlay:
    """Reads lines, polylines, arcs, circles, points and blocks of the model space.

    Args:
        unit: metres to one unit of the drawing; None takes it from the drawing's header, else metres.

    Raises:
        UnderlayError: when the file is no drawing or holds nothing that can be used.
    """
    from ezdxf import recover
    from ezdxf.lldxf.const import DXFError
    from ezdxf.path import make_path

    try:
        document, audit = recover.readfile(path)
    except (OSError, DXFError) as error:
        raise UnderlayError(say("{path} cannot be read as DXF: {error}", path=path.name, error=error)) from None
    except Exception as error:  # a damaged file can fail in any way
        raise UnderlayError(say("{path} is damaged ({name})", path=path.name, name=type(error).__name__)) from None
    remarks = []
    code = int(document.header.get("$INSUNITS", 0) or 0)
    scale = unit or UNITS.get(code, 1.0)
    if unit is None and code not in UNITS:
        remarks.append(say("the drawing states no unit: metres are taken"))
    if audit.has_errors:
        remarks.append(say("{errors} faults in the file were passed over", errors=len(audit.errors)))
    outlines: list[Outline] = []
    points: list[tuple[float, float, float]] = []
    skipped = 0
    for entity in counted(document.modelspace(), lambda n: say("{n} parts of the drawing", n=n)):
        kind = entity.dxftype()
        try:
            if kind in ("POINT", "INSERT"):
                at = entity.dxf.location if kind == "POINT" else entity.dxf.insert
                points.append((at.x * scale, at.y * scale, 0.0))
                continue
            if kind == "CIRCLE":
                c = entity.dxf.center
                points.append((c.x * scale, c.y * scale, 2 * entity.dxf.radius * scale))
            if kind not in ("LINE", "LWPOLYLINE", "POLYLINE", "ARC", "CIRCLE", "ELLIPSE", "SPLINE"):
                skipped += 1
                continue
            found = make_path(entity)
            line = tuple((round(v.x * scale, 4), round(v.y * scale, 4)) for v in found.flattening(FLATTENING / scale))
            if len(line) < 2 or all(math.dist(line[0], p) < 1e-9 for p in line):
                continue
            if len(outlines) >= MOST_LINES:
                skipped += 1
                continue
            name = f"{len(outlines) + 1} {entity.dxf.layer}"[:80]
            outlines.append(Outline(name=name, kind="underlay", points=line, closed=line[0] == line[-1]))
        except Exception:  # one bad entity does not spoil the drawing
            skipped += 1
            continue
    if not outlines and not points:
        raise UnderlayError(say("{path} holds no line, circle, point or block in its model space", path=path.name))
    if skipped:
        remarks.append(say("{skipped} things that are no lines were left out", skipped=skipped))
    return Underlay(tuple(outlines), tuple(points), tuple(remarks))


def with_underlay(project: Project, found: Underlay) -> Project:
    """The project with the drawing below its plan instead of the one before."""
    kept = tuple(o for o in project.site if o.kind != "underlay")
    taken = {o.name for o in kept}
    new = tuple(
        o if o.name not in taken else o.replaced(name=say("drawing {name}", name=o.name)) for o in found.outlines
    )
    return project.replaced(site=(*kept, *new))


def with_columns(project: Project, found: Underlay, near: float = 0.05) -> tuple[Project, int]:
    """The project with a column at every point of the drawing where there is none yet, and how many were added."""
    there = [(p.x, p.y) for p in project.actions.load_points]
    taken = {p.name for p in project.actions.load_points}
    level = project.ground.surfaces.finished
    new = []
    for x, y, diameter in found.points:
        if any(math.dist((x, y), other) < near for other in there):
            continue
        name = next(f"C{i}" for i in range(1, 100_000) if f"C{i}" not in taken)
        taken.add(name)
        there.append((x, y))
        size = round(diameter * math.sqrt(math.pi) / 2, 3) if 0.1 <= diameter <= 2.0 else 0.4
        new.append(LoadPoint(name=name, x=round(x, 3), y=round(y, 3), size_x=size, size_y=size, level=level))
    actions = project.actions.replaced(load_points=(*project.actions.load_points, *new))
    return project.replaced(actions=actions), len(new)
