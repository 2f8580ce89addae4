"""Combinations generated from rules: a rule set is data, this module only expands it.

A template has a factor for the permanent cases and terms for the others. Cases that cannot act together
are alternatives, one combination each; a reversible case acts with either sign.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations, product

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
    """A factor on the cases of one nature (of some categories, where they are named, or of all but some)."""

    nature: Nature
    factor: float
    only: tuple[str, ...] | None = None
    leads: bool = False
    """Without such a case the whole template is left out."""
    but: tuple[str, ...] = ()
    across: float | None = None
    """Of an earthquake: the share of its other directions beside one."""
    patterns: bool = False
    """Cases that act together may be absent each: on one span and not on the next."""


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
    permanents: tuple[float, ...] = ()
    """Where each permanent case takes its own factor: these in turn."""


IMPORTED = "imported combinations"
"""The group of cases that are combinations already: each acts alone, by its own row."""
FEW = 3
"""Up to so many cases every pattern is formed; of more: all, each alone, all but each."""

Factors = dict[str, float]


def of_term(term: Term, cases: Sequence[LoadCase]) -> list[LoadCase]:
    """The cases that a term is of."""
    return [
        c
        for c in cases
        if c.nature == term.nature and (term.only is None or c.category in term.only) and c.category not in term.but
    ]


def choices(cases: Sequence[LoadCase], term: Term) -> list[Factors]:
    """The ways in which the cases of a term can act: signs by case, one mapping for each way.

    Of cases that exclude each other one acts at a time; where a term does not lead, a group of them may be absent.
    """
    found = of_term(term, cases)
    if term.nature == "seismic" and term.across is not None:
        return _directions(found, term.across)
    if term.nature in ALTERNATIVE:
        return [{case.name: sign} for case in found for sign in _signs(case)]
    together = [c for c in found if not c.exclusive]
    groups: dict[str, list[LoadCase]] = {}
    for case in found:
        if case.exclusive:
            groups.setdefault(case.exclusive, []).append(case)
    parts: list[list[Factors]] = [
        [dict(zip((c.name for c in some), signs)) for signs in product(*(_signs(c) for c in some))]
        for some in (_patterns(together) if term.patterns else [together])
    ]
    ways = [way for part in parts for way in part] if together else [{}]
    for group in groups.values():
        one_of = [{case.name: sign} for case in group for sign in _signs(case)]
        # it may be absent: beside the others where the term leads, altogether where it does not
        absent: list[Factors] = [{}] if not term.leads or together or len(groups) > 1 else []
        ways = [way | one for way in ways for one in [*one_of, *absent]]
    return [way for way in ways if way or (groups and not term.leads)]


def _patterns(cases: list[LoadCase]) -> list[list[LoadCase]]:
    """All of the cases first, then with some of them absent."""
    n = len(cases)
    if n <= FEW:
        return [list(some) for size in range(n, 0, -1) for some in combinations(cases, size)] or [[]]
    alone = [[case] for case in cases]
    return [cases, *([c for c in cases if c is not gone] for gone in cases), *alone]


def _directions(cases: Sequence[LoadCase], across: float) -> list[Factors]:
    """One direction of an earthquake with a share of the others beside it, and alone; cases without a direction act
    alone."""
    ways: list[Factors] = []
    for case in cases:
        ways += [{case.name: sign} for sign in _signs(case)]
        others: dict[str, list[LoadCase]] = {}
        for other in cases:
            if case.category and other.category and other.category != case.category:
                others.setdefault(other.category, []).append(other)
        beside = [[{o.name: across * s} for o in some for s in _signs(o)] for some in others.values()]
        if beside:
            ways += [
                {case.name: sign} | {k: v for part in parts for k, v in part.items()}
                for sign in _signs(case)
                for parts in product(*beside)
            ]
    return ways


def _signs(case: LoadCase) -> tuple[float, ...]:
    return (1.0, -1.0) if case.reversible else (1.0,)


def expanded(template: Template, cases: Sequence[LoadCase]) -> Iterator[Factors]:
    """All sets of factors that a template gives for these cases."""
    permanent = [c.name for c in cases if c.nature == "permanent"]
    parts: list[list[Factors]] = [_permanent(template, permanent)]
    pressing = [c for c in cases if c.nature in ("soil", "water")]
    if pressing:
        # earth pressure is no weight: where it relieves it may be the lesser while the weights are heavy
        lateral = template.lateral or (template.permanent,)
        parts.append([{c.name: f for c in pressing} for f in dict.fromkeys(lateral)])
    leading: list[set[str]] = []
    for term in template.terms:
        ways = choices(cases, term)
        if term.leads:
            if not ways or not term.factor:
                return
            leading.append({name for way in ways for name in way})
        if ways and term.factor:
            parts.append([{name: sign * term.factor for name, sign in way.items()} for way in ways])
    groups = _groups(cases)
    seen: set[tuple[tuple[str, float], ...]] = set()
    for chosen in product(*parts):
        whole: Factors = {}
        for part in chosen:
            whole |= part
        for total in _one_of_each(whole, groups):
            if any(not names & total.keys() and not _displaced(names, total, cases) for names in leading):
                continue
            found = {name: round(value, 6) for name, value in total.items() if value}
            key = tuple(sorted(found.items()))
            if key not in seen:
                seen.add(key)
                yield found


def _displaced(names: set[str], total: Factors, cases: Sequence[LoadCase]) -> bool:
    """Whether earth or water pressure, which never leads, stands in the place of leading cases that it excludes."""
    groups = {c.exclusive for c in cases if c.name in names and c.exclusive}
    return any(c.exclusive in groups and c.name in total for c in cases if c.nature in ("soil", "water"))


def _permanent(template: Template, names: list[str]) -> list[Factors]:
    """The factors of the permanent cases: all alike, or each by itself where that is asked for."""
    if not template.permanents:
        return [dict.fromkeys(names, template.permanent)]
    factors = tuple(dict.fromkeys(template.permanents))
    if len(names) <= FEW:
        return [dict(zip(names, some)) for some in product(*(factors for _ in names))]
    alike = [dict.fromkeys(names, f) for f in factors]
    return alike + [
        {n: a if n == one else b for n in names} for one in names for a in factors for b in factors if a != b
    ]


def _groups(cases: Sequence[LoadCase]) -> list[set[str]]:
    """Cases of which at most one acts at a time, whatever their natures."""
    named: dict[str, set[str]] = {}
    for case in cases:
        if case.exclusive:
            named.setdefault(case.exclusive, set()).add(case.name)
    return [names for names in named.values() if len(names) > 1]


def _one_of_each(whole: Factors, groups: list[set[str]]) -> Iterator[Factors]:
    """The factors with at most one case of each group: each of them in turn."""
    clash = next((names & whole.keys() for names in groups if len(names & whole.keys()) > 1), None)
    if clash is None:
        yield whole
        return
    for kept in sorted(clash):
        yield from _one_of_each({n: f for n, f in whole.items() if n == kept or n not in clash}, groups)


def generated(templates: Sequence[Template], cases: Sequence[LoadCase], source: str) -> list[Combination]:
    """Combinations of a rule set, numbered from 1; what several templates give alike serves all their questions."""
    rows: dict[tuple[object, ...], Combination] = {}
    # what came as a combination is not factored again
    cases = [case for case in cases if case.exclusive != IMPORTED]
    for template in templates:
        for factors in expanded(template, cases):
            heavy, light = template.weights
            key = (
                tuple(sorted(factors.items())),
                template.weights,
                template.factor_set,
                template.situation,
                template.water,
                template.water_factor,
            )
            known = rows.get(key)
            if known is not None:
                serves = tuple(dict.fromkeys((*known.serves, *template.serves)))
                rows[key] = known.replaced(serves=serves)
                continue
            rows[key] = Combination(
                number=len(rows) + 1,
                name=named(factors),
                factors=factors,
                serves=template.serves,
                factor_set=template.factor_set,
                situation=template.situation,
                water=template.water,
                weight_unfavourable=heavy,
                weight_favourable=light,
                water_factor=template.water_factor,
                origin=f"{source}, {template.clause}",
            )
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
    fresh = [row.replaced(number=numbers.get(_rule_of(row)) or next(free)) for row in new if _rule_of(row) not in taken]
    return tuple(sorted((*kept, *fresh), key=lambda row: row.number))


def _rule_of(row: Combination) -> tuple[object, ...]:
    """What tells generated rows apart: the rule, the name that it gave, and for what: strengths, situation and
    water."""
    return row.origin, row.origin_name or row.name, row.factor_set, row.situation, row.water, row.serves
