"""Combinations generated from rules: a rule set is data, this module only expands it.

A template has a factor for the permanent cases and terms for the others. Cases that cannot act together
are alternatives, one combination each; a reversible case acts with either sign.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import product

from korbent.core.model.actions import (
    Combination,
    DesignSituation,
    FactorSet,
    LoadCase,
    Nature,
    Serves,
    WaterLevel,
)

ALTERNATIVE: tuple[Nature, ...] = ("wind", "seismic", "accidental")
"""Natures whose cases exclude each other unless a group says otherwise."""


@dataclass(frozen=True)
class Term:
    """A factor on the cases of one nature (and category, where one is named)."""

    nature: Nature
    factor: float
    category: str | None = None
    leads: bool = False
    """Without such a case the whole template is left out."""


@dataclass(frozen=True)
class Template:
    """One kind of combination of a rule set."""

    clause: str
    serves: tuple[Serves, ...]
    permanent: float
    terms: tuple[Term, ...] = ()
    weights: tuple[float, float] = (1.0, 1.0)
    factor_set: FactorSet | None = None
    situation: DesignSituation = "persistent"
    water: WaterLevel = "normal"
    water_factor: float = 1.0
    lateral: tuple[float, ...] | None = None
    """Factors that earth and water pressure take in turn, apart from the weights; None: that of the permanent cases."""


IMPORTED = "imported combinations"
"""The group of cases that are combinations already: each acts alone, by its own row."""

Factors = dict[str, float]


def choices(cases: Sequence[LoadCase], nature: Nature, category: str | None) -> list[Factors]:
    """The ways in which the cases of a nature can act: signs by case, one mapping for each way."""
    found = [c for c in cases if c.nature == nature and category in (None, c.category)]
    together = [c for c in found if not c.exclusive and nature not in ALTERNATIVE]
    groups: dict[str, list[LoadCase]] = {}
    for case in found:
        if case not in together:
            groups.setdefault(case.exclusive or nature, []).append(case)
    base = [dict(zip((c.name for c in together), signs)) for signs in product(*(_signs(c) for c in together))]
    ways = base if together else [{}]
    for group in groups.values():
        one_of = [{case.name: sign} for case in group for sign in _signs(case)]
        ways = [way | one for way in ways for one in one_of]
    return [way for way in ways if way]


def _signs(case: LoadCase) -> tuple[float, ...]:
    return (1.0, -1.0) if case.reversible else (1.0,)


def expanded(template: Template, cases: Sequence[LoadCase]) -> Iterator[Factors]:
    """All sets of factors that a template gives for these cases."""
    factors = {c.name: template.permanent for c in cases if c.nature == "permanent"}
    parts: list[list[Factors]] = []
    pressing = [c for c in cases if c.nature in ("soil", "water")]
    if pressing:
        # earth pressure is no weight: where it relieves it may be the lesser while the weights are heavy
        lateral = template.lateral or (template.permanent,)
        parts.append([{c.name: f for c in pressing} for f in dict.fromkeys(lateral)])
    for term in template.terms:
        ways = choices(cases, term.nature, term.category)
        if not ways and term.leads:
            return
        if ways and term.factor:
            parts.append([{name: sign * term.factor for name, sign in way.items()} for way in ways])
    for chosen in product(*parts):
        total = dict(factors)
        for part in chosen:
            total |= part
        yield {name: round(value, 6) for name, value in total.items() if value}


def generated(templates: Sequence[Template], cases: Sequence[LoadCase], source: str) -> list[Combination]:
    """Combinations of a rule set, numbered from 1; what several templates give alike serves all their questions."""
    rows: dict[tuple[object, ...], Combination] = {}
    # what came as a combination is not factored again
    cases = [case for case in cases if case.exclusive != IMPORTED]
    for template in templates:
        for factors in expanded(template, cases):
            heavy, light = template.weights
            key = (
                tuple(sorted(factors.items())), template.weights, template.factor_set, template.situation,
                template.water, template.water_factor,
            )  # fmt: skip
            known = rows.get(key)
            if known is not None:
                serves = tuple(dict.fromkeys((*known.serves, *template.serves)))
                rows[key] = known.replaced(serves=serves)
                continue
            rows[key] = Combination(
                number=len(rows) + 1, name=named(factors), factors=factors, serves=template.serves,
                factor_set=template.factor_set, situation=template.situation, water=template.water,
                weight_unfavourable=heavy, weight_favourable=light, water_factor=template.water_factor,
                origin=f"{source}, {template.clause}",
            )  # fmt: skip
    return list(rows.values())


def named(factors: Factors) -> str:
    """A combination written out: 1.35 G + 1.5 Q."""
    text = ""
    for case, factor in factors.items():
        size = "" if abs(factor) == 1 else f"{abs(factor):g} "
        text += (" − " if factor < 0 else " + ") + size + case
    return text.removeprefix(" + ").strip()


def regenerated(old: Sequence[Combination], new: Sequence[Combination]) -> tuple[Combination, ...]:
    """Old rows renewed: what was written or edited by hand stays, the rest is replaced.

    A generated row that comes again keeps its number; new ones take the next free numbers. Where a row was edited,
    the generated one from the same origin and of the same name is not added beside it.
    """
    kept = [row for row in old if not row.origin or row.edited]
    taken = {_rule_of(row) for row in kept if row.origin}
    numbers = {_rule_of(row): row.number for row in old if row.origin and not row.edited}
    used = {row.number for row in kept} | set(numbers.values())
    free = (n for n in range(1, 10_000) if n not in used)
    fresh = [
        row.replaced(number=numbers.get(_rule_of(row)) or next(free))
        for row in new
        if _rule_of(row) not in taken
    ]
    return tuple(sorted((*kept, *fresh), key=lambda row: row.number))


def _rule_of(row: Combination) -> tuple[object, ...]:
    """What tells generated rows apart: the rule, the name that it gave, and for what: strengths, situation and water."""
    return row.origin, row.origin_name or row.name, row.factor_set, row.situation, row.water, row.serves
