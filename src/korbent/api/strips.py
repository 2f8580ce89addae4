"""Strips between bounds, envelopes and curves to collapse."""

from collections.abc import Iterable, Mapping
from dataclasses import fields, replace
from pathlib import Path
from typing import TYPE_CHECKING, Any, get_args, get_type_hints

from korbent.api.projects import project_of
from korbent.core.model import Project
from korbent.words import say

if TYPE_CHECKING:
    from korbent.core.bearing.as_strip import AsStrip
    from korbent.core.plasticity.section import Section


def strip(
    *,
    B: float,
    c: float = 0.0,
    phi: float = 0.0,
    gamma: float = 0.0,
    q: float = 0.0,
    roughness: float = 1.0,
    layers: Iterable[Mapping[str, float]] = (),
    triangles: int = 2000,
    force: tuple[float, float, float] | None = None,
    tension: bool = True,
    slope: float = 0.0,
) -> dict[str, float | None]:
    """What a strip of width B bears under a central vertical load, kPa: ``exact`` on uniform ground (slip lines),
    ``lower`` and ``upper`` bound on any strata (conic programs; associated flow; the lower one for the box that is
    looked at).

    Args:
        c, phi, gamma, q: of uniform ground, kPa, degrees, kN/m3, kPa.
        layers: instead, strata with ``top`` and ``bottom`` (m below the underside), ``c``, ``phi``, ``gamma``, and
        ``growth`` of c with depth
            (kPa/m).
        roughness: share of c and tan(phi) of the ground that acts below the base: 1 rough, 0 smooth.
        triangles: of the finest mesh of each bound, about; 0: the exact value alone.
        force: V, H and M at the middle of the underside, that grow together; None: V alone, in the middle.
        tension: with a force, whether the base holds the ground where it would lift off.
        slope: degrees by which the ground falls away from the right edge on (less than 0: from the left one); there is
        then no exact value.

    Raises:
        ValueError: without strength, with gaps between strata, with angles beyond 50 degrees (a slope beyond 45), a
        roughness beyond 0 to 1, or
            where a slope does not stand by itself.
    """
    from korbent.core.plasticity.bounds import bound
    from korbent.core.plasticity.section import Layer, Section, checked, underside_of, uniform
    from korbent.core.plasticity.slip_lines import Strip, exact

    own = tuple(Layer(**dict(layer)) for layer in layers)
    bare = (
        Section(B, own, q, underside_of(own[0].c, own[0].phi, roughness))
        if own
        else uniform(B, c, phi, gamma, q, roughness)
    )
    section = checked(
        _loaded(replace(bare, slope=slope), force or ((B, 0.0, 0.0) if slope else None), tension or not force)
    )
    try:
        value = None if own or force or slope else exact(Strip(B, c, phi, gamma, q, roughness)).pressure
    except ValueError:  # the slip lines were not found: bounds may be
        if not triangles:
            raise
        value = None
    if not triangles:
        return {"exact": value, "lower": None, "upper": None}
    low, high = (bound(section, side, triangles).pressure for side in ("lower", "upper"))
    return {"exact": value, "lower": low, "upper": high}


def _loaded(section: "Section", load: tuple[float, float, float] | None, tension: bool) -> "Section":
    from korbent.core.plasticity.section import Load

    if load is None:
        return section
    return replace(section, load=Load(load), underside=replace(section.underside, tension=tension))


def strip_below(
    project: Project | str | Path, base: str, drainage: str = "drained", triangles: int = 2000, **taken: Any
) -> dict[str, object]:
    """A base looked at as a strip of unit length on all strata below it, as in the Bearing stop.

    Args:
        base: the name of a foundation.
        drainage: drained or undrained.
        triangles: of the finest mesh of each bound, about; 0: no bounds.
        taken: how it is taken, see :class:`korbent.core.bearing.as_strip.Taken`: ``load`` ("central" on B', "V" alone
        with H and M held, "all"
            growing together), ``underside`` ("rough", "smooth", "friction"), ``tension``, ``turns``, ``across``
            ("governing", "x", "y"), ``strengths`` ("unfactored", "design"), ``psi`` (degrees).

    Returns:
        ``exact`` (None where the ground is not uniform), ``lower``, ``upper`` and ``pressure`` of the situation in kPa,
        ``situation``, ``said`` (what was taken how) and ``methods`` (each method for the same strip on its first
        stratum, kPa). No shape factor is in any.

    Raises:
        KeyError: when there is no such foundation.
        ValueError: when it cannot be looked at as a strip, and why.
    """
    from korbent.core.bearing.as_strip import exact_of
    from korbent.core.plasticity.bounds import bound

    found = _strip_of(project, base, drainage, taken)
    low, high = (
        bound(found.section, side, triangles).pressure + found.water if triangles else None
        for side in ("lower", "upper")
    )
    return {
        "exact": exact_of(found),
        "lower": low,
        "upper": high,
        "pressure": found.pressure,
        "situation": found.combination,
        "said": found.said,
        "methods": dict(found.methods),
    }


def strip_situations(
    project: Project | str | Path, base: str, drainage: str = "drained", triangles: int = 500, **taken: Any
) -> list[dict[str, object]]:
    """A base looked at as a strip in all its situations: each between bounds, that whose load is the greatest share of
    its lower one first.

    Args:
        taken: see :func:`strip_below`.

    Returns:
        ``situation``, ``pressure`` (V over the width, kPa), ``lower``, ``upper`` (kPa), ``ratio`` (pressure over the
        lower bound) and ``why`` there is nothing, of each.

    Raises:
        KeyError: when there is no such foundation.
        ValueError: when it cannot be looked at as a strip, and why.
    """
    from korbent.core.bearing.as_strip import Taken, as_strips
    from korbent.core.plasticity.bounds import bound

    _strip_of(project, base, drainage, taken)
    own = project_of(project)
    every = as_strips(own, own.pad(base), drainage, Taken(**taken))
    found: list[dict[str, object]] = []
    if isinstance(every, str):
        raise ValueError(f"{base}: {every}")
    for name, one in every:
        row: dict[str, object] = {
            "situation": name,
            "pressure": None,
            "lower": None,
            "upper": None,
            "ratio": None,
            "why": "",
        }
        if isinstance(one, str):
            row["why"] = one
        else:
            try:
                low, high = (bound(one.section, side, triangles).pressure for side in ("lower", "upper"))
                row |= {
                    "lower": low + one.water,
                    "upper": high + one.water,
                    "ratio": (one.pressure - one.water) / low,
                }
            except ValueError as error:
                row["why"] = str(error)
            row["pressure"] = one.pressure
        found.append(row)
    return sorted(found, key=lambda row: -float(row["ratio"] or 0.0))  # type: ignore[arg-type]


def envelope(
    project: Project | str | Path,
    base: str,
    plane: str = "V-M",
    drainage: str = "drained",
    triangles: int = 800,
    **taken: Any,
) -> dict[str, object]:
    """What a base as a strip bears of two of V, H and M at once (kN/m, kNm/m), on the whole of its width; H-M under V
    of the situation.

    Args:
        plane: V-M, V-H or H-M.
        taken: see :func:`strip_below`.

    Returns:
        ``lower`` and ``upper``: (V, H, M) along each ray, a quarter or a half of the plane; ``safe``: the outline of
        what certainly is borne; ``beyond``: the outline beyond which nothing is; ``situations``: (name, V, H, M);
        ``said``.

    Raises:
        KeyError: when there is no such foundation.
        ValueError: when it cannot be looked at as a strip, and why.
    """
    from korbent.core.plasticity import envelope as of
    from korbent.core.plasticity.bounds import NotSolvedError, bound

    if plane not in of.AXES:
        raise ValueError(say("'{plane}' is not known; {axes}", plane=plane, axes=", ".join(of.AXES)))
    found = _strip_of(project, base, drainage, {**taken, "load": "all"})
    lower, upper = [], []
    level = not found.section.slope
    for ray in of.rays(plane, found.section.B, found.force[0], bool(found.section.slope)):  # type: ignore[arg-type]
        section = of.along(found.section, ray)
        try:
            low, high = (bound(section, side, triangles) for side in ("lower", "upper"))
        except NotSolvedError:
            continue  # nothing is borne along this ray
        lower.append(of.carried(ray, low.factor))
        upper.append((of.carried(ray, high.factor), high.motion))
    return {
        "plane": plane,
        "lower": lower,
        "upper": [point for point, _ in upper],
        "safe": of.hull(plane, lower, level),  # type: ignore[arg-type]
        "beyond": of.beyond(plane, upper, level),  # type: ignore[arg-type]
        "situations": list(found.others),
        "said": found.said,
    }


def collapse(
    project: Project | str | Path,
    base: str,
    drainage: str = "drained",
    shape: str = "rigid strip",
    triangles: int = 900,
    reloading: bool = False,
    **taken: Any,
) -> dict[str, object]:
    """Load against settlement of a base up to collapse, elastic and perfectly plastic, from the stresses at rest.

    Args:
        shape: "rigid strip" or "flexible strip" with B', or "circle" of the effective area.
        reloading: strata with compression lines as stiff as on reloading.
        taken: see :func:`strip_below`; with ``load="all"`` a rigid strip carries V, H and M: from rest straight to
        those of the situation, then
            all three grow.

    Returns:
        ``points`` (``settlement`` in m, ``pressure`` in kPa, ``centre`` and ``edge`` in m, ``tilt``, ``slide`` in m),
        ``limit`` (kPa), ``slope`` (kPa/m), ``pressure`` of the situation and ``settlement`` under it, ``situation`` and
        ``said``.

    Raises:
        KeyError: when there is no such foundation.
        ValueError: when there is no curve, and why.
    """
    from korbent.core.explain.collapse import base_of, seen
    from korbent.core.plasticity.path import curve

    if shape not in ("rigid strip", "flexible strip", "circle"):
        raise ValueError(say("'{shape}' is not known; rigid strip, flexible strip or circle", shape=shape))
    found = _strip_of(project, base, drainage, {"load": "central", **taken})
    own = base_of(found, shape, reloading)  # type: ignore[arg-type]
    if isinstance(own, str):
        raise ValueError(f"{base}: {own}")
    line = seen(curve(own, triangles, (found.pressure - found.water,)), found.water)
    return {
        "points": [
            {
                "settlement": p.settlement,
                "pressure": p.pressure,
                "centre": p.centre,
                "edge": p.edge,
                "tilt": p.tilt,
                "slide": p.slide,
            }
            for p in line.points
        ],
        "limit": line.limit,
        "slope": line.slope,
        "pressure": found.pressure,
        "settlement": line.at_pressure(found.pressure),
        "situation": found.combination,
        "said": found.said,
    }


def _strip_of(project: Project | str | Path, base: str, drainage: str, taken: Mapping[str, Any]) -> "AsStrip":
    from korbent.core.bearing.as_strip import Taken, as_strip

    own = project_of(project)
    pad = next((x for x in own.pads if x.name == base), None)
    if pad is None:
        raise KeyError(
            say(
                "there is no foundation '{base}'; the project has: {x}",
                base=base,
                x=", ".join(x.name for x in own.pads) or "none",
            )
        )
    if drainage not in ("drained", "undrained"):
        raise ValueError(say("'{drainage}' is not known; drained or undrained", drainage=drainage))
    known = {f.name: f for f in fields(Taken)}
    for name, value in taken.items():
        if name not in known:
            raise ValueError(say("'{name}' is not known; {known}", name=name, known=", ".join(known)))
        allowed = get_args(get_type_hints(Taken)[name])
        if allowed and str not in allowed and type(None) not in allowed and value not in allowed:
            raise ValueError(
                say("{name} '{value}' is not known; {map}", name=name, value=value, map=", ".join(map(str, allowed)))
            )
    found = as_strip(own, pad, drainage, Taken(**taken))
    if isinstance(found, str):
        raise ValueError(f"{base}: {found}")
    return found
