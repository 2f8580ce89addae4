"""Moments and shears at the nodes, design moments for bars along x and y, averages over bands."""

from dataclasses import dataclass

import numpy as np

from korbent.core.plates.mesh import Mesh
from korbent.core.plates.solve import PlateOnSprings, Solution
from korbent.core.working import Array

CORNERS = ((-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0))


@dataclass(frozen=True)
class Fields:
    """Section forces at the places of a mesh on the parts of one thickness, (places, loads); nan where a place lies on none of them."""

    thickness: float
    m_x: Array
    """Calls for bars along x; sagging positive, kNm/m."""
    m_y: Array
    m_xy: Array
    v_x: Array
    """kN/m."""
    v_y: Array


def fields_of(plate: PlateOnSprings, solution: Solution) -> tuple[Fields, ...]:
    """The forces at the nodes, each the mean of the elements around it that are as thick: never over a step; and from them at the places."""
    mesh = plate.mesh
    rows = (3 * mesh.elements[:, :, None] + np.arange(3)).reshape(len(mesh.elements), 12)
    unknowns = solution.unknowns[rows]
    loads = unknowns.shape[-1]
    at_corners = np.empty((len(rows), 4, 5, loads))
    for k, (xi, eta) in enumerate(CORNERS):
        moments, shears = plate.plates.forces(unknowns, xi, eta)
        at_corners[:, k, :3], at_corners[:, k, 3:] = moments, shears
    found = []
    for thickness in np.unique(plate.h):
        mine = plate.h == thickness
        total, count = np.zeros((len(mesh.used), 5, loads)), np.zeros(len(mesh.used))
        np.add.at(total, mesh.elements[mine], at_corners[mine])
        np.add.at(count, mesh.elements[mine], 1.0)
        with np.errstate(invalid="ignore", divide="ignore"):
            mean = np.where(count[:, None, None] > 0, total / count[:, None, None], np.nan)
        at_places = mesh.on_places(mean, mine)
        found.append(Fields(float(thickness), *(at_places[:, i] for i in range(5))))
    return tuple(found)


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
    """Mean of values at the places (places, loads) over a band of this width across an axis, about each; nan stays nan and counts in no mean.

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
        np.minimum(high[None, :], lines[:, None] + width / 2)
        - np.maximum(low[None, :], lines[:, None] - width / 2),
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
