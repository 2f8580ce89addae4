"""Moments and shears at the nodes, design moments for bars along x and y, averages over bands."""

from dataclasses import dataclass

import numpy as np

from korbent.core.plates.element import POINTS, shape
from korbent.core.plates.mesh import Mesh
from korbent.core.plates.solve import PlateOnSprings, Solution
from korbent.core.working import Array

CORNERS = ((-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0))


@dataclass(frozen=True)
class Fields:
    """Section forces at the places of a mesh on the parts of one thickness, (places, loads); nan where a place lies on
    none of them."""

    thickness: float
    m_x: Array
    """Calls for bars along x; sagging positive, kNm/m."""
    m_y: Array
    m_xy: Array
    v_x: Array
    """kN/m."""
    v_y: Array


def fields_of(plate: PlateOnSprings, solution: Solution) -> tuple[Fields, ...]:
    """The forces at the nodes, each the mean of the elements around it that are as thick: never over a step; and from
    them at the places."""
    mesh = plate.mesh
    unknowns = _of_elements(plate, solution)
    at_corners = np.empty((len(unknowns), 4, 5, unknowns.shape[-1]))
    for k, (xi, eta) in enumerate(CORNERS):
        moments, shears = plate.plates.forces(unknowns, xi, eta)
        at_corners[:, k, :3], at_corners[:, k, 3:] = moments, shears
    found = []
    for thickness in np.unique(plate.h):
        mine = plate.h == thickness
        mean = _at_nodes(plate, at_corners, mine)
        at_places = mesh.on_places(mean, mine)
        found.append(Fields(float(thickness), *(at_places[:, i] for i in range(5))))
    return tuple(found)


def _of_elements(plate: PlateOnSprings, solution: Solution) -> Array:
    """Unknowns of each element, (elements, 12, loads)."""
    elements = plate.mesh.elements
    rows = (3 * elements[:, :, None] + np.arange(3)).reshape(len(elements), 12)
    return np.asarray(solution.unknowns[rows])


def _at_nodes(plate: PlateOnSprings, at_corners: Array, mine: Array) -> Array:
    """Means of values at the corners (elements, 4, kinds, loads) of some elements at each node; nan where none of them
    is."""
    mesh = plate.mesh
    total, count = np.zeros((len(mesh.used), *at_corners.shape[2:])), np.zeros(len(mesh.used))
    np.add.at(total, mesh.elements[mine], at_corners[mine])
    np.add.at(count, mesh.elements[mine], 1.0)
    with np.errstate(invalid="ignore", divide="ignore"):
        return np.where(count[:, None, None] > 0, total / count[:, None, None], np.nan)


def moment_error(plate: PlateOnSprings, solution: Solution) -> Array:
    """Estimated error of the moments of the elements, in the mean of their energy over the whole plate, as a share of
    it, (loads,).

    What the moments within the elements differ by from those that run on between the means at the nodes (Zienkiewicz
    and Zhu 1987): it falls with the size of the elements, as the error itself does. At a column or a corner that goes
    in it is larger."""
    unknowns = _of_elements(plate, solution)
    plates, nu = plate.plates, plate.nu
    at_corners = np.stack([plates.forces(unknowns, xi, eta)[0] for xi, eta in CORNERS], axis=1)
    smooth = np.empty_like(at_corners)
    for thickness in np.unique(plate.h):
        mine = plate.h == thickness
        smooth[mine] = _at_nodes(plate, at_corners, mine)[plate.mesh.elements[mine]]

    def energy(m: Array) -> Array:
        """Of moments (elements, 3, loads), but for what all have in common."""
        x, y, xy = np.moveaxis(m, 1, 0)
        return np.asarray((x**2 + y**2 - 2 * nu * x * y + 2 * (1 + nu) * xy**2) / (plate.h**3)[:, None])

    off, whole = np.zeros(unknowns.shape[-1]), np.zeros(unknowns.shape[-1])
    for k, (xi, eta) in enumerate(POINTS):
        between = np.einsum("i,eikl->ekl", shape(xi, eta)[0], smooth)
        own = plates.forces(unknowns, xi, eta)[0]
        weight = plate.points[:, k] @ energy(own - between), plate.points[:, k] @ energy(between)
        off, whole = off + weight[0], whole + weight[1]
    return np.asarray(np.sqrt(off / np.maximum(whole, 1e-30)))


def design_moments(m_x: Array, m_y: Array, m_xy: Array) -> tuple[Array, Array, Array, Array]:
    """(bottom x, bottom y, top x, top y), each at least 0, for bars along x and y (Wood 1968, Armer 1968), kNm/m."""
    twist = np.abs(m_xy)

    def below(own: Array, other: Array) -> Array:
        """Where the own one needs no bars the other is raised by the square over it, and the other way round."""
        both = own + twist
        safe_other = np.where(np.abs(other) > 1e-12, np.abs(other), 1.0)
        alone = own + twist**2 / safe_other
        other_needs = other + twist > 0
        return np.maximum(np.where(other_needs, both, alone), 0.0)

    return below(m_x, m_y), below(m_y, m_x), below(-m_x, -m_y), below(-m_y, -m_x)


def over_band(mesh: Mesh, values: Array, axis: str, width: float) -> Array:
    """Mean of values at the places (places, loads) over a band of this width across an axis, about each; nan stays nan
    and counts in no mean.

    For bars along x the band runs along y.
    """
    shape = (len(mesh.lines_x), len(mesh.lines_y), values.shape[-1])
    grid = values.reshape(shape)
    lines = mesh.lines_y if axis == "x" else mesh.lines_x
    if axis == "y":
        grid = grid.swapaxes(0, 1)
    # what of the tributary length of each line lies within the band about another
    low, high = lines - tributary_before(lines), lines + tributary_after(lines)
    overlap = np.clip(
        np.minimum(high[None, :], lines[:, None] + width / 2) - np.maximum(low[None, :], lines[:, None] - width / 2),
        0.0,
        None,
    )
    known = ~np.isnan(grid)
    filled = np.where(known, grid, 0.0)
    weight = np.einsum("ab,ibl->ial", overlap, known.astype(float))
    total = np.einsum("ab,ibl->ial", overlap, filled)
    with np.errstate(invalid="ignore", divide="ignore"):
        mean = np.where(known, total / weight, np.nan)
    if axis == "y":
        mean = mean.swapaxes(0, 1)
    return mean.reshape(values.shape)


def tributary_before(lines: Array) -> Array:
    """Half the gap before each line."""
    return np.concatenate([[0.0], np.diff(lines) / 2])


def tributary_after(lines: Array) -> Array:
    """Half the gap after each line."""
    return np.concatenate([np.diff(lines) / 2, [0.0]])
