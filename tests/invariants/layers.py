"""Random layered ground of one unit weight below a pad, and what is done to it."""

import random

from korbent.core.evaluate import evaluate_pad
from korbent.core.model import Borehole, Load, Project, Settings, Soil, Stratum, Water
from korbent.verification.pad import one_pad

WEIGHT = 18.0
METHODS = ("Terzaghi 1943", "Meyerhof 1963", "Brinch Hansen 1970", "Vesic 1975", "EN 1997-1 Annex D")
CHECKS = ("safety-drained", "safety-undrained")
STRENGTHS = ("friction_angle", "cohesion", "undrained_strength")
DRAINAGE = {"d": "drained", "u": "undrained", "both": "both"}


def random_soil(rng: random.Random, name: str) -> Soil:
    """Drained, undrained or both, with the strengths that it needs."""
    kind = rng.choice(("d", "d", "u", "u", "both"))
    strengths: dict[str, float] = {}
    if kind != "u":
        strengths |= {
            "friction_angle": rng.uniform(18, 40),
            "cohesion": rng.choice((0.0, rng.uniform(1, 15))),
        }
    if kind != "d":
        strengths["undrained_strength"] = rng.uniform(10, 150)
    # now and then rock, with or without strengths
    pattern = "rock" if rng.random() < 0.1 and name != "s0" else "sand"
    if pattern == "rock" and rng.random() < 0.5:
        strengths = {}
    return Soil(
        name=name,
        drainage=DRAINAGE[kind],
        weight=WEIGHT,
        weight_saturated=WEIGHT + 1.5,
        pattern=pattern,
        **strengths,
    )  # type: ignore[arg-type]


def thickness(rng: random.Random) -> float:
    """Often a thin one."""
    return rng.choice((rng.uniform(0.02, 0.3), rng.uniform(0.2, 2.5)))


def layered_project(seed: int) -> Project:
    """A pad on two to five strata, any method, with and without water, inclined or eccentric load."""
    rng = random.Random(seed)
    soils = [random_soil(rng, f"s{i}") for i in range(rng.randint(2, 5))]
    upper = Stratum(soil="s0", thickness=1.2 + thickness(rng))
    between = [Stratum(soil=s.name, thickness=thickness(rng)) for s in soils[1:-1]]
    strata = (upper, *between, Stratum(soil=soils[-1].name, thickness=30.0))
    load = Load(V=600.0, Hx=rng.choice((0.0, rng.uniform(0, 40))), My=rng.choice((0.0, rng.uniform(-80, 80))))
    project = one_pad(load=load)
    level = rng.choice((None, -0.5, -1.8, -3.0))
    ground = project.ground.replaced(
        soils=tuple(soils),
        boreholes=(Borehole(name="BH", x=0.0, y=0.0, ground_level=0.0, strata=strata),),
        water=None if level is None else Water(low=level, normal=level, high=level),
    )
    settings = Settings(
        factor_bearing=3.0,
        bearing_method=rng.choice(METHODS),
        squeezing=rng.random() < 0.5,
        weak_over_strong=rng.choice(("weak_alone", "Meyerhof 1974")),
        means_of=rng.choice(("tan_phi", "phi")),
        depth_measure="arctangent",
        layer_mechanism=rng.choice(("lesser", "punching", "load_spread")),
    )
    return project.replaced(ground=ground, settings=settings)


def resistances(project: Project) -> dict[str, float | None]:
    """Ultimate resistance by check; None where it is not one."""
    found = evaluate_pad(project, project.pads[0])
    return {check: found.check(check).capacity for check in CHECKS}


def with_strength(project: Project, soil: Soil, name: str, value: float) -> Project:
    """One strength of a soil changed."""
    soils = tuple(s.replaced(**{name: value}) if s is soil else s for s in project.ground.soils)
    return project.replaced(ground=project.ground.replaced(soils=soils))


def cut(project: Project, seed: int, factor: float = 1.0) -> Project:
    """One stratum cut in two, the lower part another soil with strengths times a factor."""
    rng = random.Random(seed)
    hole = project.ground.boreholes[0]
    strata = list(hole.strata)
    i = rng.randrange(len(strata))
    t = strata[i].thickness
    # the cut lies below the base
    above = rng.uniform(1.2 + 0.02 * (t - 1.2), t) if i == 0 else rng.uniform(0.02, 0.98) * t
    soil = next(s for s in project.ground.soils if s.name == strata[i].soil)
    other = soil.replaced(name="other", **{n: v * factor for n in STRENGTHS if (v := getattr(soil, n)) is not None})
    strata[i : i + 1] = [Stratum(soil=soil.name, thickness=above), Stratum(soil="other", thickness=t - above)]
    ground = project.ground.replaced(
        soils=(*project.ground.soils, other), boreholes=(hole.replaced(strata=tuple(strata)),)
    )
    return project.replaced(ground=ground)
