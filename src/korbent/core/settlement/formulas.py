"""The published formulas that the laws use, each by itself, over arrays."""

import numpy as np

from korbent.core.working import Array

LEAST = 0.1
"""The least effective stress (kPa) that a law on a logarithm is given."""


def skempton_bjerrum(A: Array, depth: Array, radius: Array) -> Array:
    """Share of the oedometer settlement that occurs below a base (Skempton and Bjerrum 1957): A + alpha (1 - A).

    alpha is the horizontal over the vertical stress increase on the axis of a circle, undrained (nu = 0.5), at the
    depth of the sublayer (Boussinesq).

    Args:
        A: pore-pressure coefficient.
        depth: below the base, m.
        radius: of the circle of equal area, m.
    """
    ratio = np.maximum(depth, 1e-9) / radius
    root = np.sqrt(1 + ratio**2)
    cosine = ratio / root
    vertical = 1 - cosine**3
    horizontal = 0.5 * (2.0 - 3.0 * cosine + cosine**3)
    share: Array = A + horizontal / np.maximum(vertical, 1e-12) * (1 - A)
    return share


def skempton_bjerrum_strip(A: Array, depth: Array, width: Array) -> Array:
    """The same below a strip, in plane strain: N + alpha (1 - N), N = sqrt(3)/2 (A - 1/3) + 1/2 (Scott 1963, from
    memory).

    alpha is sigma_x/sigma_z on the axis of a strip: (a - sin a)/(a + sin a), a = 2 atan(B/(2 z)).
    """
    N = np.sqrt(3) / 2 * (A - 1 / 3) + 0.5
    angle = 2 * np.arctan2(width / 2, np.maximum(depth, 1e-9))
    share: Array = N + (1 - N) * (angle - np.sin(angle)) / (angle + np.sin(angle))
    return share


def confined(modulus: Array, poisson: Array) -> Array:
    """Strain per stress without sideways strain: (1 + nu)(1 - 2 nu)/((1 - nu) E), 1/kPa."""
    strain: Array = (1 + poisson) * (1 - 2 * poisson) / (1 - poisson) / modulus
    return strain


def strain_influence(depth: Array, B: Array, L: Array, q_net: Array, at_peak: Array) -> Array:
    """Strain influence factor I_z of Schmertmann, Hartman and Brown (1978).

    Square: 0.1 at the base, I_p at B/2, 0 at 2 B. Strip (L/B >= 10): 0.2, I_p at B, 0 at 4 B. Linear in L/B between.
    I_p = 0.5 + 0.1 sqrt(q/sigma'_p), sigma'_p the effective stress before loading at the depth of the peak.
    """
    share = np.clip((L / B - 1) / 9, 0.0, 1.0)
    peak = 0.5 + 0.1 * np.sqrt(np.maximum(q_net, 0.0) / np.maximum(at_peak, 0.1))
    start, z_peak, z_end = 0.1 + 0.1 * share, (0.5 + 0.5 * share) * B, (2 + 2 * share) * B
    rising = start + (peak - start) * depth / z_peak
    falling = peak * (z_end - depth) / (z_end - z_peak)
    factor: Array = np.where(depth <= z_peak, rising, np.maximum(falling, 0.0))
    return factor


def peak_depth(B: Array, L: Array) -> Array:
    """Depth of the peak of the strain influence below the base, m."""
    depth: Array = (0.5 + 0.5 * np.clip((L / B - 1) / 9, 0.0, 1.0)) * B
    return depth


def embedment_factor(q_net: Array, beside: Array) -> Array:
    """C1 = 1 - 0.5 sigma'_0/q, at least 0.5 (Schmertmann et al. 1978)."""
    factor: Array = np.maximum(1 - 0.5 * beside / np.maximum(q_net, 1e-9), 0.5)
    return factor


def oedometer_strain(before: Array, added: Array, preconsolidation: Array, Cc: Array, Cr: Array, e0: Array) -> Array:
    """Vertical strain from the e-log p line: Cr up to the preconsolidation pressure, Cc beyond; negative where it
    swells.

    Args:
        before: effective vertical stress before loading, kPa (> 0).
        added: stress increase, kPa.
        preconsolidation: sigma'p, kPa (>= before).
        Cc, Cr, e0: compression index, recompression index, void ratio before loading.
    """
    before = np.maximum(before, LEAST)
    after = np.maximum(before + added, LEAST)
    yielded = np.maximum(preconsolidation, before)
    first = np.log10(np.maximum(after, yielded) / yielded)
    strain: Array = (Cr * np.log10(after / before) + (Cc - Cr) * first) / (1 + e0)
    return strain


def time_factor(years: float) -> float:
    """C2 = 1 + 0.2 log10(t/0.1), t in years (Schmertmann 1970)."""
    return 1.0 + 0.2 * float(np.log10(max(years, 0.1) / 0.1))


def burland_burbidge(
    B: float,
    L: float,
    N: float,
    q: float,
    preload: float,
    thickness: float,
    years: float,
    cyclic: bool = False,
) -> float:
    """Settlement (mm) of a base on sand by Burland and Burbidge (1985).

    s = f_s f_l f_t [B^0.7 I_c (q - 2/3 sigma'_v0max)], below the preconsolidation pressure I_c/3; I_c = 1.71/N^1.4; f_s
    = (1.25 (L/B)/(L/B + 0.25))^2; f_l = (H/z_I)(2 - H/z_I) for H < z_I = B^0.763; f_t = 1 + R3 + R log10(t/3) from 3
    years on, R3 = 0.3 and R = 0.2 static, 0.7 and 0.8 cyclic.

    Args:
        q: mean gross effective pressure, kPa.
        preload: greatest effective overburden of the past at the founding level, kPa.
        thickness: of the sand below the base, m.
    """
    index = 1.71 / max(N, 1.0) ** 1.4
    shape = (1.25 * (L / B) / (L / B + 0.25)) ** 2
    depth = B**0.763
    layer = 1.0 if thickness >= depth else thickness / depth * (2 - thickness / depth)
    R3, R = (0.7, 0.8) if cyclic else (0.3, 0.2)
    time = 1 + R3 + R * float(np.log10(years / 3)) if years >= 3 else 1.0
    pressed = q / 3 if q <= preload else q - 2 / 3 * preload
    return float(shape * layer * time * B**0.7 * index * max(pressed, 0.0))


def fox(B: Array, L: Array, depth: Array, poisson: Array) -> Array:
    """Mean settlement of a rectangle at a depth over that at the surface of the elastic half-space (Fox 1948, from
    Mindlin's point load).

    1 at the surface, 0.5 at great depth.
    """
    a, b = np.maximum(B, L), np.minimum(B, L)
    r = 2 * np.maximum(depth, 1e-6 * b)
    r1, r2 = np.hypot(a, r), np.hypot(b, r)
    r3, r4 = np.sqrt(a * a + b * b + r * r), np.hypot(a, b)
    nu = poisson
    first, second = 3 - 4 * nu, 5 - 12 * nu + 8 * nu**2
    third, fourth, fifth = -4 * nu * (1 - 2 * nu), -1 + 4 * nu - 8 * nu**2, -4 * (1 - 2 * nu) ** 2
    Y1 = a * np.log((r4 + b) / a) + b * np.log((r4 + a) / b) - (r4**3 - a**3 - b**3) / (3 * a * b)
    Y2 = a * np.log((r3 + b) / r1) + b * np.log((r3 + a) / r2) - (r3**3 - r2**3 - r1**3 + r**3) / (3 * a * b)
    Y3 = r * r / a * np.log((b + r2) * r1 / ((b + r3) * r)) + r * r / b * np.log((a + r1) * r2 / ((a + r3) * r))
    Y4 = r * r * (r1 + r2 - r3 - r) / (a * b)
    Y5 = r * np.arctan(a * b / (r * r3))
    share: Array = (first * Y1 + second * Y2 + third * Y3 + fourth * Y4 + fifth * Y5) / ((first + second) * Y1)
    return share
