"""EN 1992-1-1: punching."""

import numpy as np

from korbent.core.concrete.standards.en1992.section import REFERENCE
from korbent.core.concrete.standards.en1992.shear import Shear
from korbent.core.working import Array, Recorder


class Punching(Shear):
    """EN 1992-1-1: punching."""

    def punching_strength(
        self, d: Array, a: Array, fck: float, steel_ratio: Array, special: Array, record: Recorder
    ) -> Array:
        """Punching within 2d of the loaded area (6.4.4(2), equation 6.50)."""
        basic, least = self._basic(d, fck, steel_ratio, special, record)
        strength: Array = np.maximum(basic, least) * 2 * d / a
        record.step("v_Rd", "max(v_c, v_min)*2*d/a", strength, "MPa", reference=f"{REFERENCE} (6.50)")
        return strength

    def face_strength(self, fck: float, fcd: Array, record: Recorder) -> Array:
        """0.4 nu f_cd (6.4.5(3) as amended by A1:2014), nu by (6.6N)."""
        nu = 0.6 * (1 - fck / 250.0)
        strength: Array = self.national.face * nu * fcd
        record.step("nu", "0.6*(1 - f_ck/250)", nu, reference=f"{REFERENCE} (6.6N)")
        record.step(
            "v_Rd_max",
            f"{self.national.face}*nu*f_cd",
            strength,
            "MPa",
            reference=f"{REFERENCE} 6.4.5(3), A1:2014",
        )
        return strength

    def search_distances(self, d: Array) -> Array:
        """From 0.1 d to 2 d (6.4.2(2), 6.4.4(2))."""
        distances: Array = np.linspace(0.1, 2.0, 39).reshape(-1, *([1] * d.ndim)) * d
        return distances

    def moment_share(self, ratio: Array) -> Array:
        """Table 6.1: k by c1/c2, c1 along the eccentricity."""
        share: Array = np.interp(ratio, [0.5, 1.0, 2.0, 3.0], [0.45, 0.6, 0.7, 0.8])
        return share

    def steel_at_column(
        self,
        stress: Array,
        perimeter: Array,
        sides: Array,
        d: Array,
        fck: float,
        fyk: float,
        record: Recorder,
    ) -> Array:
        """None is asked for."""
        return np.zeros_like(stress)

    def opening_reach(self, d: Array, h: Array) -> Array:
        """6 d (6.4.2(3))."""
        reach: Array = 6 * d
        return reach

    def plain_punching(self, fck: float, long_over_short: Array, record: Recorder) -> Array | None:
        """None in section 12."""
        return None
