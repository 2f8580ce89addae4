"""What has changed between two states of a project, base by base: loads, ground, sizes, bars, and the checks that
crossed 1.0."""

from dataclasses import dataclass
from typing import Any, Literal

from korbent.core.checks import LIMIT, CheckResult
from korbent.core.concrete.bar_text import words
from korbent.core.evaluate import Results, evaluate
from korbent.core.ground.below import profile_below
from korbent.core.ground.profile import strata_of
from korbent.core.model.actions import LoadPoint
from korbent.core.model.differences import differences
from korbent.core.model.foundations import Pad, Strap
from korbent.core.model.frozen import BOOKKEEPING
from korbent.core.model.labels import label
from korbent.core.model.plate import Plate
from korbent.core.model.project import Project
from korbent.core.model.reinforcement import FACES
from korbent.core.units import Showing, length_text, show, show_length, shown_unit, sizes_text
from korbent.words import say

Kind = Literal["new", "gone", "changed"]
FORCES = (("V", "kN"), ("Hx", "kN"), ("Hy", "kN"), ("Mx", "kNm"), ("My", "kNm"))
SIZES = (
    ("width", "B"),
    ("length", "L"),
    ("far_length", say("far L")),
    ("thickness", "h"),
    ("hole", "hole"),
    ("offset_x", say("offset x")),
    ("offset_y", say("offset y")),
)
SHARE = 0.005
"""Loads that differ by less are the same."""
LEAST = 0.05
"""kN or kNm, below which a load is none."""
OF_GENERAL = (
    "settings",
    "standards",
    say("actions combinations"),
    say("actions cases"),
    say("actions rules"),
    say("ground water"),
    say("ground surfaces"),
)


@dataclass(frozen=True)
class BaseChange:
    """One base (or strap) that is not as it was."""

    base: str
    kind: Kind
    loads: tuple[str, ...] = ()
    ground: tuple[str, ...] = ()
    sizes: tuple[str, ...] = ()
    bars: tuple[str, ...] = ()
    before: float | None = None
    """The worst ratio before and after."""
    after: float | None = None
    crossed: tuple[str, ...] = ()
    """Checks that went over 1.0, or came back below it."""

    @property
    def built(self) -> bool:
        """Whether what is drawn is another."""
        return self.kind != "changed" or bool(self.sizes or self.bars)


@dataclass(frozen=True)
class Changes:
    """All that changed: bases, and what holds for the whole project, in a line each."""

    bases: tuple[BaseChange, ...]
    general: tuple[str, ...]

    @property
    def clouded(self) -> tuple[str, ...]:
        """The bases that drawings mark."""
        return tuple(b.base for b in self.bases if b.built and b.kind != "gone")


def changes(before: Project, after: Project) -> Changes:
    """What differs in ``after`` against ``before``; bases are known by their names."""
    old, new = evaluate(before), evaluate(after)
    was, now = {p.name: p for p in before.pads}, {p.name: p for p in after.pads}
    found: list[BaseChange] = []
    for name in dict.fromkeys([*now, *was]):
        if name not in was:
            pad = now[name]
            found.append(BaseChange(name, "new", sizes=(_size(pad, after.showing),), after=new.pad(name).worst.ratio))
        elif name not in now:
            found.append(
                BaseChange(name, "gone", sizes=(_size(was[name], after.showing),), before=old.pad(name).worst.ratio)
            )
        else:
            one = _of_base(before, after, was[name], now[name], old, new)
            if one is not None:
                found.append(one)
    return Changes((*found, *_straps(before, after)), _general(before, after))


def _of_base(before: Project, after: Project, was: Pad, now: Pad, old: Results, new: Results) -> BaseChange | None:
    own = BaseChange(
        now.name,
        "changed",
        _loads(before, after, was, now),
        _ground(before, after, was, now),
        _sizes(before, after, was, now),
        _bars(was, now, after.showing),
        old.pad(now.name).worst.ratio,
        new.pad(now.name).worst.ratio,
        _crossed(old.pad(now.name).checks, new.pad(now.name).checks),
    )
    moved = own.before != own.after and (
        own.before is None or own.after is None or abs(own.before - own.after) >= 0.005
    )
    return own if own.loads or own.ground or own.sizes or own.bars or own.crossed or moved else None


def _loads(before: Project, after: Project, was: Pad, now: Pad) -> tuple[str, ...]:
    u = after.showing
    known = {p.name: p for p in before.actions.load_points}
    found = []
    for name in now.carries:
        point = after.load_point(name)
        if name not in was.carries or name not in known:
            found.append(say("{name} stands on it", name=name))
            continue
        other = known[name]
        for case in dict.fromkeys([*point.loads, *other.loads]):
            parts = []
            for force, unit in FORCES:
                a, b = (getattr(p.loads[case], force) if case in p.loads else 0.0 for p in (other, point))
                if abs(b - a) <= max(SHARE * max(abs(a), abs(b)), LEAST):
                    continue
                share = f" ({100 * (b - a) / abs(a):+.0f} %)".replace("-", "−") if abs(a) > LEAST else ""
                parts.append(f"{force} {show(a, unit, u)} → {show(b, unit, u)} {shown_unit(unit, u)}{share}")
            if parts:
                found.append(f"{name} {case}: " + ", ".join(parts))
    found += [say("{name} no longer stands on it", name=name) for name in was.carries if name not in now.carries]
    return tuple(found)


def _ground(before: Project, after: Project, was: Pad, now: Pad) -> tuple[str, ...]:
    if before.ground is after.ground or before.ground == after.ground:
        return ()
    layers: list[list[tuple[str, float, float]]] = []
    soils: list[dict[str, Any]] = []
    for project, pad in ((before, was), (after, now)):
        profile = profile_below(project.ground, pad, project.load_point(pad.load_point))
        own = strata_of(profile) if profile is not None else []
        layers.append([(s.name, round(t, 3), round(b, 3)) for s, t, b in own])
        soils.append({s.name: s for s, _, _ in own})
    found = []
    u = after.showing
    if layers[0] != layers[1]:
        names = [[n for n, _, _ in some] for some in layers]
        if names[0] != names[1]:
            found.append(
                say(
                    "strata {names} → {names_2}",
                    names=", ".join(names[0]) or say("none"),
                    names_2=", ".join(names[1]) or say("none"),
                )
            )
        else:
            found += [
                say(
                    "{n}: {length} to {show_length_2} → {show_length_3} to {show_length_4} {unit}",
                    n=n,
                    length=show_length(t0, u),
                    show_length_2=show_length(b0, u),
                    show_length_3=show_length(t1, u),
                    show_length_4=show_length(b1, u),
                    unit=shown_unit("m", u),
                )
                for (n, t0, b0), (_, t1, b1) in zip(*layers)
                if (t0, b0) != (t1, b1)
            ]
    for name, soil in soils[1].items():
        other = soils[0].get(name)
        if other is not None and other != soil:
            for field in type(soil).model_fields:
                a, b = getattr(other, field), getattr(soil, field)
                if a != b and field not in BOOKKEEPING and field != "sources":
                    found.append(f"{name} {label(field)}: {_said(a)} → {_said(b)}")
    return tuple(found)


def _said(value: Any) -> str:
    return say("none") if value is None or value == "" else f"{value:g}" if isinstance(value, float) else str(value)


def _size(pad: Pad, u: Showing) -> str:
    sizes = (pad.width, pad.thickness) if pad.is_round else (pad.width, pad.length, pad.thickness)
    return f"{'ø ' if pad.is_round else ''}{sizes_text(sizes, u)}"


def _sizes(before: Project, after: Project, was: Pad, now: Pad) -> tuple[str, ...]:
    u, unit = after.showing, shown_unit("m", after.showing)
    found = []
    if was.shape != now.shape or was.kind != now.kind:
        found.append(f"{was.shape} {was.kind} → {now.shape} {now.kind}")
    for name, said in SIZES:
        a, b = getattr(was, name), getattr(now, name)
        if abs(a - b) > 5e-4:
            found.append(f"{said} {length_text(a, u, False)} → {length_text(b, u)}")
    if abs(was.underside - now.underside) > 5e-4:
        found.append(
            say(
                "underside {length} → {now_show_length} {unit}",
                length=show_length(was.underside, u),
                now_show_length=show_length(now.underside, u),
                unit=unit,
            )
        )
    if was.outline != now.outline:
        found.append(say("another outline"))
    if was.rotation != now.rotation:
        found.append(say("turned {rotation:g}° → {now_rotation:g}°", rotation=was.rotation, now_rotation=now.rotation))
    known = {p.name: p for p in before.actions.load_points}
    point, other = after.load_point(now.load_point), known.get(now.load_point)
    if other is not None and (abs(point.x - other.x) > 5e-4 or abs(point.y - other.y) > 5e-4):
        found.append(
            say(
                "moved to {length}, {point_show_length} {unit}",
                length=show_length(point.x, u),
                point_show_length=show_length(point.y, u),
                unit=unit,
            )
        )
    if was.load_point != now.load_point:
        found.append(
            say("under {load_point} → under {now_load_point}", load_point=was.load_point, now_load_point=now.load_point)
        )
    for name in now.carries:
        if name in was.carries and name in known:
            found += _columns(known[name], after.load_point(name), u)
    if was.openings != now.openings:
        found.append(say("other openings"))
    if (
        (was.pedestal is None) != (now.pedestal is None)
        or was.pedestals != now.pedestals
        or _pedestal(was) != _pedestal(now)
    ):
        found.append(say("another pedestal"))
    if _plate(was.plate) != _plate(now.plate):
        found.append(say("other parts, ribs or openings of the raft"))
    if was.plate and now.plate and _rests(was.plate) != _rests(now.plate):
        a, b = label(was.plate.ground), label(now.plate.ground)
        found.append(say("rests on {a} → {b}", a=a, b=b) if a != b else say("other {a} below the raft", a=a))
    return tuple(found)


def _columns(was: LoadPoint, now: LoadPoint, u: Showing) -> list[str]:
    """What stands on the base: sizes of the column, of its base plate, its anchors."""
    found = []
    sizes = [(p.size_x, p.size_y) for p in (was, now)]
    if max(abs(a - b) for a, b in zip(*sizes)) > 5e-4:
        found.append(f"{now.name} {sizes_text(sizes[0], u, unit=False)} → {sizes_text(sizes[1], u)}")
    if (was.plate_x, was.plate_y) != (now.plate_x, now.plate_y):
        found.append(say("another base plate below {now}", now=now.name))
    if was.anchors != now.anchors:
        what = say("no anchors") if now.anchors is None else "anchors" if was.anchors is None else say("other anchors")
        found.append(say("{what} of {now}", what=what, now=now.name))
    return found


def _rests(plate: Plate) -> tuple[Any, ...]:
    """What the raft rests on, as far as it counts."""
    springs = (plate.subgrade, plate.zones) if plate.ground == "springs" else ()
    return plate.ground, plate.greatest, plate.lifts, *springs


def _pedestal(pad: Pad) -> tuple[Any, ...]:
    p = pad.pedestal
    return () if p is None else (p.shape, p.size_x, p.size_y, round(p.top - pad.top, 4))


def _plate(plate: Plate | None) -> tuple[Any, ...]:
    return () if plate is None else (plate.openings, plate.thickenings, plate.lower, plate.ribs)


def _bars(was: Pad, now: Pad, u: Showing) -> tuple[str, ...]:
    us = u.system == "us"
    found = []
    for face in FACES:
        a, b = words(was.reinforcement.bars(face), us), words(now.reinforcement.bars(face), us)
        if a != b:
            found.append(f"{label(face)} {a or say('none')} → {b or say('none')}")
    if was.reinforcement.sides != now.reinforcement.sides:
        found.append(
            say(
                "sides {sides} → {sides_2}",
                sides=words(was.reinforcement.sides, us) or say("none"),
                sides_2=words(now.reinforcement.sides, us) or say("none"),
            )
        )
    if was.dowels != now.dowels:
        found.append(say("other dowels"))
    if (
        was.pedestal
        and now.pedestal
        and (was.pedestal.bars, was.pedestal.diameter, was.pedestal.tie_diameter, was.pedestal.tie_spacing)
        != (
            now.pedestal.bars,
            now.pedestal.diameter,
            now.pedestal.tie_diameter,
            now.pedestal.tie_spacing,
        )
    ):
        found.append(say("other bars or ties of the pedestal"))
    if (was.plate.added if was.plate else ()) != (now.plate.added if now.plate else ()):
        found.append(say("other added bars"))
    return tuple(found)


def _crossed(old: tuple[CheckResult, ...], new: tuple[CheckResult, ...]) -> tuple[str, ...]:
    before = {c.check.id: c for c in old}
    found = []
    for check in new:
        other = before.get(check.check.id)
        if other is None:
            continue
        a, b = _beyond(other), _beyond(check)
        if a is not None and b is not None and a != b:
            found.append(f"{check.check.title} {_ratio(other)} → {_ratio(check)}")
    return tuple(found)


def _beyond(check: CheckResult) -> bool | None:
    return None if check.ratio is None else check.ratio > LIMIT


def _ratio(check: CheckResult) -> str:
    return "–" if check.ratio is None else f"{check.ratio:.2f}"


def _beam(strap: Strap) -> Strap:
    """Of a strap what is built: not how it may grow, nor which others are alike."""
    return strap.replaced(ranges={}, type=None)


def _straps(before: Project, after: Project) -> list[BaseChange]:
    was, now = {s.name: s for s in before.straps}, {s.name: s for s in after.straps}
    u = after.showing
    found = []
    for name in dict.fromkeys([*now, *was]):
        strap = now.get(name) or was[name]
        size = say(
            "{sizes} between {edge} and {inner}",
            sizes=sizes_text((strap.width, strap.depth), u),
            edge=strap.edge,
            inner=strap.inner,
        )
        if name not in was or name not in now:
            found.append(BaseChange(name, "new" if name in now else "gone", sizes=(size,)))
        elif _beam(was[name]) != _beam(strap):
            old = was[name]
            sizes = [
                f"{said} {length_text(getattr(old, f), u, False)} → {length_text(getattr(strap, f), u)}"
                for f, said in (("width", "b"), ("depth", "h"))
                if getattr(old, f) != getattr(strap, f)
            ]
            us = u.system == "us"
            bars = [
                f"{f} {words(getattr(old, f), us) or say('none')} → {words(getattr(strap, f), us) or say('none')}"
                for f in ("top", "bottom", "links")
                if getattr(old, f) != getattr(strap, f)
            ]
            if sizes or bars:
                found.append(BaseChange(name, "changed", sizes=tuple(sizes), bars=tuple(bars)))
    return found


def _general(before: Project, after: Project) -> tuple[str, ...]:
    return tuple(line for line in differences(before, after, 2000) if line.startswith(OF_GENERAL))
