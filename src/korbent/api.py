"""What other programs may call: small, typed, and kept as it is from release to release. Only the names of this module
are promised.

Units are m, kN, kNm, kPa, MPa (strengths of concrete and steel), kN/m3, degrees; days for time. Arrays of any shape
that broadcast against each other may stand for numbers."""

from collections.abc import Iterable, Mapping
from dataclasses import fields, replace
from pathlib import Path
from typing import TYPE_CHECKING, Any, NamedTuple, get_args, get_type_hints

import numpy as np
from numpy.typing import ArrayLike, NDArray

from korbent.core import model
from korbent.core.bearing.methods import METHODS, Footing
from korbent.core.checks import CheckResult
from korbent.core.concrete.demand import BeamLine
from korbent.core.concrete.flexure import required_steel
from korbent.core.concrete.standards.protocol import ConcreteStandard
from korbent.core.concrete.standards.registry import NAMES, standard_of
from korbent.core.contact.circle import linear_no_tension_round
from korbent.core.contact.rectangle import linear_no_tension
from korbent.core.evaluate import evaluate
from korbent.core.explain import working as explained
from korbent.core.explain.raft import FIELDS, raft_field, raft_field_at
from korbent.core.explain.raft_line import raft_line as _raft_line
from korbent.core.explain.rib import along_rib
from korbent.core.explain.strap import along_strap
from korbent.core.model import Pad, Project
from korbent.core.model.settings import Settings
from korbent.core.plates.mesh import mesh_of
from korbent.core.plates.recover import fields_of
from korbent.core.plates.solve import PlateOnSprings
from korbent.core.settlement.stress.rectangle import rectangle_stress
from korbent.core.straps.second_look import compared
from korbent.core.units import shown_unit
from korbent.core.working import SILENT, Recording
from korbent.files.project_file import load, save
from korbent.files.results_json import as_json
from korbent.files.settlement_tables import as_values
from korbent.words import say

if TYPE_CHECKING:
    from korbent.core.bearing.as_strip import AsStrip
    from korbent.core.plasticity.section import Section

__all__ = [
    "BEARING_METHODS",
    "CONCRETE_STANDARDS",
    "RAFT_FIELDS",
    "Bearing",
    "PlateFields",
    "Pressed",
    "bearing",
    "change",
    "changes",
    "check",
    "collapse",
    "contact",
    "envelope",
    "explain",
    "flexural_steel",
    "load",
    "model",
    "one_way_shear",
    "plate",
    "raft",
    "raft_line",
    "rib",
    "save",
    "settlement",
    "sheets",
    "situations",
    "strap",
    "stress_below",
    "strip",
    "strip_below",
    "strip_situations",
]

Array = NDArray[Any]
BEARING_METHODS = tuple(METHODS)
"""Names of the methods of bearing resistance."""
RAFT_FIELDS = tuple(FIELDS)
"""Fields of a raft."""
CONCRETE_STANDARDS = NAMES
"""Names of the standards of concrete."""


class Bearing(NamedTuple):
    """Ultimate resistance on the effective area."""

    pressure: Array
    """kPa."""
    slides: Array
    """Whether the horizontal force alone is too great for it."""
    values: Mapping[str, Array]
    """What it was made of, by symbol: N_q, N_c, N_gamma, s_q, d_q, i_q ... as far as the method has them."""


def bearing(
    method: str,
    *,
    B: ArrayLike,
    L: ArrayLike,
    overburden: ArrayLike,
    weight: ArrayLike,
    friction_angle: ArrayLike = 0.0,
    cohesion: ArrayLike = 0.0,
    depth: ArrayLike = 0.0,
    N: ArrayLike = 1.0,
    H_B: ArrayLike = 0.0,
    H_L: ArrayLike = 0.0,
    tilt: float = 0.0,
    slope: float = 0.0,
) -> Bearing:
    """The bearing resistance by one method; without friction the undrained one, ``cohesion`` being the undrained
    strength.

    Args:
        method: one of BEARING_METHODS. B, L: effective sizes, B the shorter, m. depth: of the founding level, m.
        overburden: stress beside the base, kPa.
        weight: effective unit weight below the base, kN/m3. N, H_B, H_L: forces, H along B and along L, kN.
        tilt, slope: of the underside, and of the ground falling away beside it, degrees.

    Raises:
        ValueError: for another method, or friction in some values only.
    """
    if method not in METHODS:
        raise ValueError(say("{method!r} is no method: {methods}", method=method, methods=", ".join(METHODS)))
    phi = np.deg2rad(np.asarray(friction_angle, dtype=float))
    if phi.any() and not phi.all():
        raise ValueError(say("friction angles are all above zero (drained) or all zero (undrained)"))

    def a(value: ArrayLike) -> Array:
        return np.asarray(value, dtype=float)

    base = Footing(
        N=a(N),
        H_B=a(H_B),
        H_L=a(H_L),
        B=a(B),
        L=a(L),
        depth=a(depth),
        cohesion=a(cohesion),
        phi=phi,
        overburden=a(overburden),
        weight=a(weight),
        tilt=np.deg2rad(tilt),
        slope=np.deg2rad(slope),
    )
    recording = Recording()
    found = (METHODS[method].drained if phi.any() else METHODS[method].undrained)(base, recording)
    values = {step.symbol: np.asarray(step.value, dtype=float) for step in recording.steps if not step.labels}
    return Bearing(np.asarray(found.pressure), np.asarray(found.slides), values)


class Pressed(NamedTuple):
    """Linear pressure without tension under a rigid base: p = a + b x + c y, cut off at zero."""

    a: Array
    b: Array
    c: Array
    share: Array
    """Of the base in contact."""
    peak: Array
    """kPa."""
    stable: Array
    """The resultant presses down within the base; elsewhere all values are zero."""


def contact(
    N: ArrayLike,
    M_x: ArrayLike,
    M_y: ArrayLike,
    *,
    B: ArrayLike,
    L: ArrayLike | None = None,
    hole: ArrayLike = 0.0,
) -> Pressed:
    """The pressure under a rectangle B x L, or without L under a circle of the diameter B, a ring with a hole.

    Args:
        N: down, kN. M_x, M_y: right-handed, at the middle, kNm. B, L, hole: m.
    """
    arrays = np.broadcast_arrays(*(np.asarray(v, dtype=float) for v in (N, M_x, M_y, B, B if L is None else L, hole)))
    n, mx, my, b, length, inner = (np.atleast_2d(v) for v in arrays)
    shape = arrays[0].shape
    if L is not None:
        found = linear_no_tension(n, mx, my, b, length)
        parts = (found.a, found.b, found.c, found.share, found.peak, found.stable)
    else:
        around = linear_no_tension_round(n, np.hypot(mx, my), b / 2, inner / 2)
        size = np.maximum(np.hypot(mx, my), 1e-300)
        cosine, sine = my / size, -mx / size
        parts = (
            around.a,
            around.b * cosine,
            around.b * sine,
            around.share,
            around.a + around.b * b / 2,
            around.stable,
        )
    return Pressed(*(np.broadcast_to(part, n.shape).reshape(shape) for part in parts))


def stress_below(
    pressure: ArrayLike, B: ArrayLike, L: ArrayLike, *, z: ArrayLike, x: ArrayLike = 0.0, y: ArrayLike = 0.0
) -> Array:
    """Vertical stress (kPa) below a uniformly loaded rectangle at (x, y) from its middle and the depth z, m (Boussinesq
    1885)."""
    parts = np.broadcast_arrays(*(np.asarray(v, dtype=float) for v in (x, y, B, L, z)))
    found: Array = np.asarray(pressure) * rectangle_stress(*(np.atleast_1d(p) for p in parts)).reshape(parts[0].shape)
    return found


def _standard(name: str) -> ConcreteStandard:
    found = standard_of(name, Settings())
    if found is None:
        raise ValueError(say("{name!r} is no standard: {names}", name=name, names=", ".join(NAMES)))
    return found


def flexural_steel(standard: str, moment: ArrayLike, *, d: ArrayLike, f_c: float, f_y: float) -> tuple[Array, Array]:
    """(steel in mm2/m, moment over the greatest of a ductile section) for a moment per width, kNm/m, with the usual
    factors.

    Args:
        standard: one of CONCRETE_STANDARDS. d: effective depth, m. f_c, f_y: strengths, MPa.
    """
    rules, usual = _standard(standard), np.zeros(1, dtype=bool)
    fcd, fyd = rules.strengths(f_c, f_y, usual, SILENT)
    m, depth = np.asarray(moment, dtype=float), np.asarray(d, dtype=float)
    steel, used = required_steel(rules, m, depth, f_c, fcd, fyd, SILENT)
    shape = np.broadcast_shapes(m.shape, depth.shape)
    return np.asarray(steel).reshape(shape), np.asarray(used).reshape(shape)


def one_way_shear(standard: str, *, d: ArrayLike, f_c: float, steel_ratio: ArrayLike) -> Array:
    """Shear strength without links, MPa on width times effective depth, with the usual factors."""
    rules, depth = _standard(standard), np.asarray(d, dtype=float)
    found = rules.shear_strength(depth, f_c, np.asarray(steel_ratio, dtype=float), np.zeros(1, dtype=bool), SILENT)
    return np.asarray(found).reshape(np.broadcast_shapes(depth.shape, np.shape(steel_ratio)))


def check(project: Project | str | Path) -> dict[str, Any]:
    """All results of a project, or of its file, as plain values: ``checks``, ``worst``, ``settlement``
    (docs/file-format.md).

    Raises:
        korbent.files.project_file.ProjectFileError: when the file is no project.
    """
    return as_json(evaluate(_project(project)))


def change(project: Project, *path: str | int, to: Any) -> Project:
    """The project with one value changed, and all that a change by hand entails (see docs/python.md): a base that is
    issued or poured keeps its size, one whose edge is held grows away from it, what came from an expression no longer
    does, a parameter adopted from tests loses its source, a new name is taken up everywhere.

    Args:
        path: the way to the value, such as ``"pads", "P8", "width"``.
        to: the value, in the unit in which it is stored.

    Raises:
        ValueError: when a frozen base would change its size.
        pydantic.ValidationError: when the value, or the project with it, is not valid.
        KeyError: when the path leads nowhere.
    """
    from korbent.core.plan.by_hand import by_hand

    return by_hand(project, path, to)


def changes(before: Project | str | Path, after: Project | str | Path) -> dict[str, Any]:
    """What has changed between two states: ``bases`` (loads, ground, sizes, bars, worst ratios before and after, checks
    that crossed 1.0) and ``project`` (what holds for all), as ``korbent compare --json`` writes them.

    Raises:
        korbent.files.project_file.ProjectFileError: when a file is no project.
    """
    from korbent.core.explain.changes import changes as found
    from korbent.sheets.changes import changes_values

    return changes_values(found(_project(before), _project(after)))


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
    own = _project(project)
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

    own = _project(project)
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


def sheets(
    project: Project | str | Path,
    folder: str | Path,
    name: str = "",
    formats: Iterable[str] = ("pdf", "dxf", "xlsx"),
    since: Project | str | Path | None = None,
) -> list[Path]:
    """Writes a set of sheets (the first one where none is named) into a folder, as ``korbent sheets`` does; the files
    that were written.

    Args:
        formats: of pdf, dxf, svg, docx, html, xlsx, csv.
        since: an earlier state, against which changes are marked.

    Raises:
        KeyError: when there is no such set.
        ValueError: when a format is not known.
        OSError: when something cannot be written.
    """
    from korbent.sheets.catalogue import set_named
    from korbent.sheets.issue import formats_of, write_set

    own = _project(project)
    before = None if since is None else _project(since)
    return write_set(own, set_named(own, name), Path(folder), formats_of(",".join(formats)), before)


def explain(project: Project | str | Path, base: str, check: str) -> list[dict[str, str]]:
    """The working of one check, line by line: symbol, formula, numbers, value, unit, reference, note.

    Raises:
        KeyError: when there is no such base or check.
    """
    whole = _project(project)
    found = explained.working(whole, whole.pad(base), check)
    if isinstance(found, CheckResult):
        return [
            {
                "symbol": "",
                "formula": "",
                "numbers": "",
                "value": found.state.value,
                "unit": "",
                "reference": "",
                "note": found.message,
            }
        ]
    names = ("symbol", "formula", "numbers", "value", "unit", "reference", "note")
    return [{name: getattr(line, name) for name in names} for line in found.lines()]


def situations(project: Project | str | Path, base: str, check: str) -> list[dict[str, Any]]:
    """One check in all its situations, the worst first: combination, name, block, demand, capacity, ratio, state.

    Raises:
        KeyError: when there is no such base or check.
    """
    whole = _project(project)
    rows = explained.situations_of(whole, whole.pad(base), check)
    return [vars(row) | {"state": row.state.value} for row in rows]


def settlement(project: Project | str | Path) -> dict[str, Any]:
    """The settlement of all bases and marks over time, as plain values."""
    found: dict[str, Any] = as_values(_project(project))
    return found


class PlateFields(NamedTuple):
    """A plate on springs: nodes on lines along x and y, fields of shape (lines along x, lines along y); nan in
    openings."""

    x: Array
    """Lines of the mesh, m."""
    y: Array
    settlement: Array
    """mm."""
    pressure: Array
    """kPa."""
    m_x: Array
    """kNm/m; calls for bars along x, sagging positive."""
    m_y: Array
    m_xy: Array
    residual: float
    """Out of balance over the load."""
    unknowns: int


def plate(
    *,
    B: float,
    L: float,
    h: float,
    E: float,
    k: float,
    columns: Iterable[tuple[float, float, float, float, float]],
    nu: float = 0.2,
    pressure: float = 0.0,
    openings: Iterable[tuple[float, float, float, float]] = (),
    lifts: bool = True,
    greatest: float | None = None,
    size: float | None = None,
) -> PlateFields:
    """A rectangular plate on springs (Mindlin and Reissner; elements after Katili 1993) under columns that press over
    their footprints.

    Args:
        B, L, h: sizes along x and y and thickness, m; the middle is at (0, 0). E: kPa. k: kN/m3.
        columns: x, y, size along x, size along y (m), V (kN, down) of each; a column lies within the plate.
        pressure: on all of it, kPa, down. openings: x from, x to, y from, y to, m.
        lifts: the ground presses only. greatest: it gives no more, kPa. size: greatest size of elements, m.

    Raises:
        ValueError: where a size or stiffness is not positive, a column or an opening lies beyond the edge, or no ground
        holds the load.
    """
    for name, value in (("B", B), ("L", L), ("h", h), ("E", E), ("k", k)):
        if not value > 0:
            raise ValueError(say("{name} is {value:g}: it must be more than 0", name=name, value=value))
    loads, holes = [tuple(map(float, c)) for c in columns], [tuple(map(float, o)) for o in openings]
    boxes = [(x - a / 2, x + a / 2, y - b / 2, y + b / 2) for x, y, a, b, _ in loads]
    for what, found in (("column", boxes), ("opening", holes)):
        for i, (x0, x1, y0, y1) in enumerate(found):
            if not (x0 < x1 and y0 < y1):
                raise ValueError(say("{what} {i} has no size", what=what, i=i + 1))
            if x0 < -B / 2 - 1e-9 or x1 > B / 2 + 1e-9 or y0 < -L / 2 - 1e-9 or y1 > L / 2 + 1e-9:
                raise ValueError(
                    say(
                        "{what} {i} reaches over the edge, {B:g} m and {L:g} m from the middle",
                        what=what,
                        i=i + 1,
                        B=B / 2,
                        L=L / 2,
                    )
                )
    cell = size or min(B, L) / 16
    mesh = mesh_of((-B / 2, B / 2, -L / 2, L / 2), boxes, holes, cell, min(cell, max(cell / 3, h / 3)))  # type: ignore[arg-type]
    count = len(mesh.elements)
    solver = PlateOnSprings(mesh, np.full(count, float(h)), E, nu, np.full(count, float(k)))
    down = np.full((count, 4, 1), float(pressure))
    for (*_, V), box in zip(loads, boxes):
        down[mesh.within(box)] += V / ((box[1] - box[0]) * (box[3] - box[2]))
    solved = solver.solve(solver.load(down), not lifts, greatest)
    (fields,) = fields_of(solver, solved)
    grid = (len(mesh.lines_x), len(mesh.lines_y))
    settled = np.where(mesh.used, solved.settlement[:, 0], np.nan)
    reaction = np.clip(k * settled, -np.inf if not lifts else 0.0, np.inf if greatest is None else greatest)

    def field(values: Array) -> Array:
        return np.where(mesh.used, values, np.nan).reshape(grid)

    return PlateFields(
        mesh.lines_x,
        mesh.lines_y,
        field(1000 * settled),
        field(reaction),
        field(fields.m_x[:, 0]),
        field(fields.m_y[:, 0]),
        field(fields.m_xy[:, 0]),
        solved.residual,
        solver.count,
    )


def _raft(project: Project | str | Path, base: str) -> tuple[Project, Pad]:
    whole = _project(project)
    pad = whole.pad(base)
    if pad.plate is None:
        raise ValueError(say("{base} is no raft", base=base))
    return whole, pad


def raft(
    project: Project | str | Path, base: str, field: str, situation: str = "", day: float | None = None
) -> dict[str, Any]:
    """A field of a raft of a project: ``x``, ``y`` (m, from its middle), ``values`` (lines along x, lines along y),
    ``unit``, ``situation``.

    Args:
        field: one of RAFT_FIELDS. situation: its label; the envelope where none is given. day: from the first
        construction step: the
            loads that are there then, on the ground as it has settled until then.

    Raises:
        KeyError: when there is no such base or field. ValueError: when the base is no raft, or cannot be solved.
    """
    whole, pad = _raft(project, base)
    found = raft_field(whole, pad, field, situation) if day is None else raft_field_at(whole, pad, field, day)
    if isinstance(found, str):
        raise ValueError(f"{base}: {found}")
    return {
        "x": found.x,
        "y": found.y,
        "values": found.values,
        "unit": shown_unit(found.unit, "metric"),
        "situation": found.situation,
    }


def raft_line(
    project: Project | str | Path,
    base: str,
    start: tuple[float, float],
    end: tuple[float, float],
    band: float = 1.0,
) -> dict[str, Any]:
    """Along a line over a raft from ``start`` to ``end`` (m, from its middle, in its axes): ``at`` (m from the start)
    and, each (greatest, least), ``moment`` for bars along the line (kNm/m), ``twist`` (kNm/m), ``shear`` (kN/m),
    ``pressure`` (kPa), ``settled`` (mm); ``asked`` and ``provided`` steel by face and direction (mm2/m). Means over a
    ``band`` about the line (m); nan off the raft.

    Raises:
        KeyError: when there is no such base. ValueError: when the base is no raft, cannot be solved, or the line has no
        length.
    """
    whole, pad = _raft(project, base)
    found = _raft_line(whole, pad, start, end, band)
    if isinstance(found, str):
        raise ValueError(f"{base}: {found}")
    names = ("moment", "twist", "shear", "pressure", "settled", "asked", "provided")
    return {"at": found.places, **{name: getattr(found, name) for name in names}}


def rib(project: Project | str | Path, base: str, name: str) -> dict[str, Any]:
    """Envelopes along a rib of a raft, with the plate in its flange: ``at`` (m), ``shear`` (kN), ``moment`` and
    ``torsion`` (kNm), each (least, most).

    Raises:
        KeyError: when there is no such base or rib. ValueError: when the base is no raft, or cannot be solved.
    """
    whole, pad = _raft(project, base)
    found = along_rib(whole, pad, name)
    if isinstance(found, str):
        raise ValueError(f"{base}: {found}")
    return _beam(found)


def strap(project: Project | str | Path, name: str) -> dict[str, Any]:
    """Envelopes along the beam of a strap by statics, from the base at the boundary: as :func:`rib`.

    Beside them ``plates``: the same with both bases as plates on springs, and ``reactions`` (kN): below both bases by
    ``statics``, ``plates`` and ``stiff`` bases on springs, where the beam bends most, with ``settled`` (mm), of the
    plates below both columns; or ``plates`` is why they are not looked at.

    Raises:
        KeyError: when there is no such strap. ValueError: when nothing acts on it.
    """
    whole = _project(project)
    tie = next((s for s in whole.straps if s.name == name), None)
    if tie is None:
        raise KeyError(name)
    found = along_strap(whole, whole.pad(tie.edge))
    if found is None:
        raise ValueError(say("{name}: no combination serves 'concrete'", name=name))
    looks = compared(whole, tie)
    if isinstance(looks, str) or isinstance(looks.plates, str) or found.other is None:
        why = looks if isinstance(looks, str) else looks.plates
        return {**_beam(found), "plates": why}
    reactions = {one: getattr(looks, one).R for one in ("statics", "plates", "stiff")}
    settled = tuple(1000 * w for w in looks.settled)
    return {**_beam(found), "plates": _beam(found.other), "reactions": reactions, "settled": settled}


def _beam(found: BeamLine) -> dict[str, Any]:
    pairs = {
        "shear": (found.shear_least, found.shear_most),
        "moment": (found.moment_least, found.moment_most),
        "torsion": (found.twist_least, found.twist_most),
    }
    values = {name: np.array(pair) for name, pair in pairs.items() if len(pair[0])}
    return {"at": np.array(found.at), **values}


def _project(given: Project | str | Path) -> Project:
    return given if isinstance(given, Project) else load(Path(given))
