"""Reference cases of outlines that are no rectangle: a round plate on springs, plates of triangles, polygons as
bases."""

import math
from functools import lru_cache

import numpy as np
from scipy.sparse.linalg import spsolve
from scipy.special import bei, beip, ber, berp, kei, keip, ker, kerp

from korbent.core.footprint import Polygon, Round
from korbent.core.plates.outline_mesh import OutlineMesh, outline_mesh_of
from korbent.core.plates.recover import fields_of
from korbent.core.plates.solve import PlateOnSprings
from korbent.verification.case import Case
from korbent.verification.plates import NU, E, _navier

R, SIDE, H, MODULUS, POISSON, K, V = 4.0, 0.4, 0.08, 30e6, 0.2, 300.0, 10.0
AWAY = 1.0
"""From the middle, where the moments are looked at, m."""
AROUND = 2 * np.pi * np.arange(24) / 24


@lru_cache(maxsize=1)
def by_kelvin() -> dict[str, float]:
    """A thin round plate on springs with a load over a small circle in its middle, its rim free (Timoshenko and
    Woinowsky-Krieger 1959, article 57): w = C1 ber + C2 bei, outside the load with ker and kei, of r over (D/k)^1/4."""
    D = MODULUS * H**3 / (12 * (1 - POISSON**2))
    length, c = (D / K) ** 0.25, SIDE / math.sqrt(math.pi)
    q = V / (math.pi * c**2)
    # with the sum of second derivatives and its slope: that of ber is -bei, of bei ber, of ker -kei, of kei ker
    functions = (
        (ber, berp, -1, bei, beip),
        (bei, beip, 1, ber, berp),
        (ker, kerp, -1, kei, keip),
        (kei, keip, 1, ker, kerp),
    )

    def terms(k: int, r: float) -> tuple[float, float, float, float]:
        """(w, slope, radial moment, shear) of a function at r."""
        f, fp, sign, g, gp = functions[k]
        x = r / length
        laplace, laplace_p = sign * g(x) / length**2, sign * gp(x) / length**3
        slope = fp(x) / length
        second = laplace - slope / r
        return float(f(x)), float(slope), float(-D * (second + POISSON * slope / r)), float(-D * laplace_p)

    # unknowns: two inside, four outside
    A, b = np.zeros((6, 6)), np.zeros(6)
    for k in range(2):
        A[:4, k] = terms(k, c)
    for k in range(4):
        A[:4, 2 + k] = [-v for v in terms(k, c)]
        A[4:, 2 + k] = terms(k, R)[2:]
    b[0] = -q / K
    found = np.linalg.solve(A, b)

    def outside(r: float, what: int) -> float:
        return float(sum(found[2 + k] * terms(k, r)[what] for k in range(4)))

    slope, m_r = outside(AWAY, 1), outside(AWAY, 2)
    second = -m_r / D - POISSON * slope / AWAY
    m_t = -D * (slope / AWAY + POISSON * second)
    return {"middle": float(found[0]) + q / K, "rim": outside(0.99 * R, 0), "m_r": m_r, "m_t": m_t}


@lru_cache(maxsize=2)
def as_polygon(corners: int = 64) -> dict[str, float]:
    """The same as a polygon as large."""
    radius = R * math.sqrt(math.pi / (corners / 2 * math.sin(2 * math.pi / corners)))
    turns = 2 * math.pi * (np.arange(corners) + 0.5) / corners
    box = (-SIDE / 2, SIDE / 2, -SIDE / 2, SIDE / 2)
    mesh = outline_mesh_of(
        [(float(radius * math.cos(t)), float(radius * math.sin(t))) for t in turns], [box], [], 0.1, 0.1
    )
    count = len(mesh.elements)
    plate = PlateOnSprings(mesh, np.full(count, H), MODULUS, POISSON, np.full(count, K))
    load = np.zeros((count, 4, 1))
    load[mesh.within(box)] = V / SIDE**2
    solution = plate.solve(plate.load(load), tension=True)
    (fields,) = fields_of(plate, solution)
    w = mesh.on_places(solution.settlement)
    c, s = np.cos(AROUND), np.sin(AROUND)
    middle = mesh.at(w, np.zeros(1), np.zeros(1))[0, 0]
    rim = mesh.at(w, 0.99 * R * c, 0.99 * R * s).mean()
    m_x, m_y, m_xy = (mesh.at(v, AWAY * c, AWAY * s)[:, 0] for v in (fields.m_x, fields.m_y, fields.m_xy))
    m_r = m_x * c**2 + m_y * s**2 + 2 * m_xy * c * s
    return {
        "middle": float(middle),
        "rim": float(rim),
        "m_r": float(m_r.mean()),
        "m_t": float((m_x + m_y - m_r).mean()),
    }


@lru_cache(maxsize=4)
def of_triangles(n: int) -> tuple[float, float]:
    """(deflection, m_x) in the middle of a simply supported square 1 m wide and 1 mm thick under 1 kPa, each of n x n
    cells in two triangles."""
    lines = np.linspace(0.0, 1.0, n + 1)
    x, y = (v.ravel() for v in np.meshgrid(lines, lines, indexing="ij"))
    first = (np.arange(n)[:, None] * (n + 1) + np.arange(n)).ravel()
    a, b, c, d = first, first + n + 1, first + n + 2, first + 1
    i, j = first // (n + 1), first % (n + 1)
    # the diagonals run towards the middle
    rising = (i < n / 2) == (j < n / 2)
    one = np.where(rising[:, None], np.stack([a, b, c, c], -1), np.stack([a, b, d, d], -1))
    two = np.where(rising[:, None], np.stack([a, c, d, d], -1), np.stack([b, c, d, d], -1))
    mesh = OutlineMesh(lines, lines, x, y, np.concatenate([one, two]))
    count = len(mesh.elements)
    plate = PlateOnSprings(mesh, np.full(count, 0.001), E, NU, np.zeros(count))
    load = plate.load(np.ones((count, 4, 1)))[:, 0]
    on_x, on_y = (x < 1e-9) | (x > 1 - 1e-9), (y < 1e-9) | (y > 1 - 1e-9)
    fixed = np.zeros(plate.count, dtype=bool)
    fixed[::3], fixed[2::3], fixed[1::3] = on_x | on_y, on_x, on_y
    matrix = plate._matrix(np.zeros((count, 4)))
    found = np.zeros(plate.count)
    found[~fixed] = spsolve(matrix[~fixed][:, ~fixed], load[~fixed])
    middle = int(np.argmin((x - 0.5) ** 2 + (y - 0.5) ** 2))
    rows = (3 * mesh.elements[:, :, None] + np.arange(3)).reshape(-1, 12)
    corners = ((-1, -1), (1, -1), (1, 1))
    moments = [
        plate.plates.forces(found[rows][:, :, None], *corners[k])[0][e, 0, 0]
        for e, k in zip(*np.nonzero(mesh.elements[:, :3] == middle))
    ]
    return float(found[3 * middle]), float(np.mean(moments))


def _circle(what: str, e: float) -> tuple[float, float]:
    """(of a polygon of 180 corners, of the circle): greatest pressure or effective area under 100 kN at e from the
    middle of 2 m."""
    turns = 2 * np.pi * np.arange(180) / 180
    one = np.array([[100.0]])
    shapes = (Polygon(np.cos(turns)[None], np.sin(turns)[None]), Round(np.array([[2.0]]), np.zeros((1, 1))))
    found = []
    for shape in shapes:
        contact = shape.contact(one, 0 * one, e * one)
        area = shape.effective(contact, 0 * one, 0 * one)
        found.append(float(contact.peak[0, 0] if what == "peak" else (area.x * area.y)[0, 0]))
    return found[0], found[1]


ELL = Polygon(np.array([[-3.0, 3.0, 3.0, 0.0, 0.0, -3.0]]), np.array([[-2.0, -2.0, 0.0, 0.0, 2.0, 2.0]]))
# two rectangles 6 x 2 about (0, -1) and 3 x 2 about (-1.5, 1)
_X = (12 * 0.0 + 6 * -1.5) / 18
_Y = (12 * -1.0 + 6 * 1.0) / 18
_XX = 6**3 * 2 / 12 + 12 * _X**2 + 3**3 * 2 / 12 + 6 * (-1.5 - _X) ** 2
_XY = 12 * (0 - _X) * (-1 - _Y) + 6 * (-1.5 - _X) * (1 - _Y)

OUTLINES: tuple[Case, ...] = (
    *(
        Case(
            f"round plate on springs, 64 corners: {words}",
            "closed form",
            "Kelvin functions (Timoshenko and Woinowsky-Krieger 1959)",
            lambda n=name: by_kelvin()[n],
            lambda n=name: as_polygon()[n],
            tolerance,
            unit,
        )
        for name, words, tolerance, unit in (
            ("middle", "w in the middle", 5e-3, "m"),
            ("rim", "w near the rim", 1e-2, "m"),
            ("m_r", "radial moment 1 m out", 1.5e-2, "kNm/m"),
            ("m_t", "moment around 1 m out", 1.5e-2, "kNm/m"),
        )
    ),
    *(
        Case(
            f"simply supported square of triangles, {n} x {n} x 2: {what}",
            "closed form",
            "Navier (Timoshenko and Woinowsky-Krieger 1959)",
            lambda i=i: _navier(0.001, 1.0, False)[i],
            lambda n=n, i=i: of_triangles(n)[i],
            tolerance,
            unit,
        )
        for n, tolerances in ((8, (2e-2, 4e-2)), (16, (5e-3, 1e-2)))
        for i, what, tolerance, unit in ((0, "w", tolerances[0], "m"), (1, "m_x", tolerances[1], "kNm/m"))
    ),
    *(
        Case(
            f"180 corners as a circle of 2 m, e = {e:g} m: peak",
            "second method",
            "circle in closed form and by its own Newton method",
            lambda e=e: _circle("peak", e)[1],
            lambda e=e: _circle("peak", e)[0],
            2e-3,
            "kPa",
        )
        for e in (0.1, 0.3, 0.5)
    ),
    Case(
        "ell 6 x 4 m without a quarter: centre along x",
        "closed form",
        "two rectangles",
        _X,
        lambda: float(np.asarray(ELL.centroid)[0, 0]),
        1e-12,
        "m",
    ),
    Case(
        "the same: along y",
        "closed form",
        "two rectangles",
        _Y,
        lambda: float(np.asarray(ELL.centroid_y)[0, 0]),
        1e-12,
        "m",
    ),
    Case(
        "the same: second moment",
        "closed form",
        "two rectangles (Steiner)",
        _XX,
        lambda: float(ELL.inertia[0][0, 0]),
        1e-12,
        "m⁴",
    ),
    Case(
        "the same: product of inertia",
        "closed form",
        "two rectangles (Steiner)",
        _XY,
        lambda: float(np.asarray(ELL.product)[0, 0]),
        1e-12,
        "m⁴",
    ),
    Case(
        "a corner of its pressure under its own bending about y",
        "closed form",
        "unsymmetrical bending",
        lambda: _bent()[1],
        lambda: _bent()[0],
        1e-9,
        "kPa",
    ),
)


def _bent() -> tuple[float, float]:
    """(found, by the formula of unsymmetrical bending) pressure at the corner (3, -2), all of it pressed."""
    N, e_x, e_y = 900.0, _X + 0.05, _Y
    contact = ELL.contact(np.array([[N]]), np.array([[-N * e_y]]), np.array([[N * e_x]]))
    (xx, yy), xy = (float(v[0, 0]) for v in ELL.inertia), float(np.asarray(ELL.product)[0, 0])
    M = N * 0.05
    b, c = M * yy / (xx * yy - xy**2), -M * xy / (xx * yy - xy**2)
    return float(contact.pressure_at(3.0, -2.0)[0, 0]), N / 18 + b * (3 - _X) + c * (-2 - _Y)
