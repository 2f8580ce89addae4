"""Modulus of elasticity of concrete."""

from korbent.core.bench import Bench
from korbent.core.concrete.standards.registry import standard_of


def elastic_modulus(bench: Bench) -> float:
    """Of the concrete: 22 000 (f_cm/10)^0.3 (EN 1992-1-1 table 3.1) or 4700 sqrt(f'c) (ACI 318-19 19.2.2.1), kPa."""
    fck = bench.settings.concrete_strength
    standard = standard_of(bench.standards.concrete, bench.settings)
    if standard is not None and standard.name.startswith("ACI"):
        return float(4700 * fck**0.5 * 1000)
    return float(22_000 * ((fck + 8) / 10) ** 0.3 * 1000)
