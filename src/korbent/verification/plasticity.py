"""Reference cases of the strip: exact by slip lines, and bracketed."""

from functools import cache

import numpy as np

from korbent.core.plasticity.bounds import bound
from korbent.core.plasticity.section import Layer, Section, uniform
from korbent.core.plasticity.slip_lines import Strip, exact, n_c, n_gamma
from korbent.verification.case import Case

MEMORY = "Martin 2005, quoted from memory"
ROUGH = ((10, 0.4332), (20, 2.839), (30, 14.7543), (40, 85.566))
SMOOTH = ((10, 0.2809), (20, 1.579), (30, 7.653), (40, 43.19))


@cache
def _mid(section: Section, most: int) -> float:
    low, high = (bound(section, side, most).pressure for side in ("lower", "upper"))  # type: ignore[arg-type]
    return (low + high) / 2


GENERAL = Strip(2.0, 10.0, 30.0, 18.0, 20.0)
OVER = Section(1.0, (Layer(0.0, 0.4, 30.0, 0.0, 0.0), Layer(0.4, 1e6, 30.0, 0.0, 0.0)))

PLASTICITY: tuple[Case, ...] = (
    *(Case(f"strip: N_γ rough, φ {phi}°", "from memory", MEMORY, value, lambda phi=phi: n_gamma(float(phi)), 3e-4) for phi, value in ROUGH),
    *(Case(f"strip: N_γ smooth, φ {phi}°", "from memory", MEMORY, value, lambda phi=phi: n_gamma(float(phi), 0.0), 3e-4) for phi, value in SMOOTH),
    Case("strip: hardly any weight tends to c N_c + q N_q", "closed form", "Prandtl 1920, Reissner 1924",
         lambda: exact(Strip(1.0, 20.0, 25.0, 0.0, 10.0)).pressure, lambda: exact(Strip(1.0, 20.0, 25.0, 0.02, 10.0)).pressure, 5e-4, "kPa"),
    Case("strip: mid of the bounds, c, φ, γ and q", "second method", "slip lines", lambda: exact(GENERAL).pressure,
         lambda: _mid(uniform(2.0, 10.0, 30.0, 18.0, 20.0), 900), 0.03, "kPa"),
    Case("strip: mid of the bounds, undrained", "closed form", "(2 + π) c", 2 + float(np.pi), lambda: _mid(uniform(1.0, 1.0, 0.0, 0.0, 0.0), 900), 0.01),
    Case("strip: mid of the bounds, undrained, cut in two strata", "closed form", "(2 + π) c", 30.0 * n_c(0.0), lambda: _mid(OVER, 900), 0.01, "kPa"),
)  # fmt: skip
