"""AS 3600: anchorage and laps."""

import numpy as np

from korbent.core.concrete.standards.as3600.punching import Punching
from korbent.core.concrete.standards.as3600.section import REFERENCE
from korbent.core.concrete.standards.protocol import BarEnds, DowelEnds
from korbent.core.working import Array, Recorder
from korbent.words import say


class Anchorage(Punching):
    """AS 3600: anchorage and laps."""

    def anchorage(self, ends: BarEnds, fck: float, fyk: float, special: Array, record: Recorder) -> tuple[Array, Array]:
        """Development from the face to the end of the bar; nearer to the edge than the thickness the bars run on below
        the column. 13.1.2.2: 0.5 k1 k3 fsy db/(k2 sqrt(f'c)), at least 0.058 fsy k1 db; by the stress needed
        (13.1.2.4), at least 12 db; half of it with a hook (13.1.2.6). k3 by the cover or half the clear spacing."""
        db = 1000 * ends.diameter
        apart = 1e6 * np.pi * ends.diameter**2 / 4 / np.maximum(ends.provided, 1e-9)
        c_d = np.minimum(np.minimum(1000 * ends.cover, 1000 * (apart - ends.diameter) / 2), 3 * db)
        k_2 = (132 - db) / 100
        k_3 = np.clip(1 - 0.15 * (c_d - db) / np.maximum(db, 1e-9), 0.7, 1.0)
        k_1 = np.where(ends.level - ends.diameter / 2 > 0.3, 1.3, 1.0)
        full = k_1 * np.maximum(0.5 * k_3 * fyk * db / (k_2 * np.sqrt(min(fck, 65.0))), 0.058 * fyk * db) / 1000
        k_h = 0.5 if ends.hooked else 1.0
        needed = np.where(ends.share > 0.0, k_h * np.maximum(full * ends.share, 12 * ends.diameter), 0.0)
        there = np.maximum(ends.outstand, ends.x) - ends.cover
        record.step(
            "k_1",
            "where(z_b - oe/2 > 0.3, 1.3, 1)",
            k_1,
            reference=f"{REFERENCE} 13.1.2.2",
            note=say("1.3 with more than 300 mm cast below"),
        )
        record.step("k_2", "(132 - 1000*oe)/100", k_2, reference=f"{REFERENCE} 13.1.2.2")
        record.given(
            "k_3",
            k_3,
            reference=f"{REFERENCE} 13.1.2.2",
            note=say("by cover or half the clear spacing over diameter, 0.7 to 1"),
            needs="oe A_s",
        )
        record.given("k_h", k_h, reference=f"{REFERENCE} 13.1.2.6", note=say("half with a hook"))
        record.step(
            "L_sy",
            "k_1*max(0.5*k_3*f_y*1000*oe/(k_2*sqrt(min(f_c, 65))), 0.058*f_y*1000*oe)/1000",
            full,
            "m",
            reference=f"{REFERENCE} 13.1.2.2",
        )
        record.given(
            "k_x",
            ends.share,
            reference=f"{REFERENCE} 13.1.2.4",
            note=say("steel needed at the face over that provided"),
            needs="A_s R",
        )
        record.step(
            "l_req",
            "where(k_x > 0, k_h*max(L_sy*k_x, 12*oe), 0)",
            needed,
            "m",
            reference=f"{REFERENCE} 13.1.2.4",
        )
        record.given("c", ends.cover, "m", note=say("cover"))
        record.given(
            "x_a",
            ends.x,
            "m",
            note=say("the thickness: nearer to the edge the bars run on below the column"),
            needs="l_o h",
        )
        record.step("l_av", "max(l_o, x_a) - c", there, "m", note=say("to the end of the bar"))
        return needed, there

    def dowel_anchorage(self, ends: DowelEnds, fck: float, fyk: float, special: Array, record: Recorder) -> Array:
        """13.1.5: 0.22 fsy/sqrt(f'c) db, at least 0.0435 fsy db, by the stress, and 200 mm; half the length of 13.1.2.2
        with a hook where some are pulled."""
        db, root = 1000 * ends.diameter, float(np.sqrt(min(fck, 65.0)))
        pressed = np.maximum(ends.share * np.maximum(0.22 * fyk / root, 0.0435 * fyk) * db, 200.0) / 1000
        hooked = np.maximum(0.5 * fyk * db / ((132 - db) / 100 * root), 0.058 * fyk * db) / 2000
        needed: Array = np.where(ends.pulled, np.maximum(pressed, hooked), pressed)
        record.step(
            "l_c",
            f"max(k_d*max(0.22*f_y/{root}, 0.0435*f_y)*1000*oe, 200)/1000",
            pressed,
            "m",
            reference=f"{REFERENCE} 13.1.5",
        )
        record.step(
            "l_h",
            f"max(0.5*f_y*1000*oe/((132 - 1000*oe)/100*{root}), 0.058*f_y*1000*oe)/2000",
            hooked,
            "m",
            reference=f"{REFERENCE} 13.1.2.6",
        )
        record.step("l_req", "where(pulled > 0, max(l_c, l_h), l_c)", needed, "m")
        return needed

    def lap(self, diameter: float, fck: float, fyk: float) -> float:
        """13.2.2: 1.25 times the development length, at least 0.058 fsy db."""
        db = 1000 * diameter
        length = max(0.5 * fyk * db / ((132 - db) / 100 * float(np.sqrt(min(fck, 65.0)))), 0.058 * fyk * db)
        return 1.25 * length / 1000
