"""Rule sets for combinations, as data: EN 1990 with EN 1997-1, ASCE 7-16 and 7-22, AS/NZS 1170.0."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from korbent.core.actions.generate import Template, Term, generated
from korbent.core.model.actions import Combination, DesignSituation, FactorSet, LoadCase, Nature, Serves

# EN 1990:2002 table A1.1, recommended values: psi0, psi1, psi2 by category of imposed load
PSI_IMPOSED = {
    "A": (0.7, 0.5, 0.3), "B": (0.7, 0.5, 0.3), "C": (0.7, 0.7, 0.6), "D": (0.7, 0.7, 0.6), "E": (1.0, 0.9, 0.8),
    "F": (0.7, 0.7, 0.6), "G": (0.7, 0.5, 0.3), "H": (0.0, 0.0, 0.0),
}  # fmt: skip
PSI_OTHER = {"snow": (0.5, 0.2, 0.0), "wind": (0.6, 0.2, 0.0)}


def psi(nature: str, category: str | None) -> tuple[float, float, float]:
    """psi0, psi1, psi2; an imposed load without category counts as B (offices)."""
    return PSI_OTHER.get(nature) or PSI_IMPOSED.get(category or "B", PSI_IMPOSED["B"])


Variable = tuple[Nature, str | None]


def _variables(cases: Sequence[LoadCase]) -> list[Variable]:
    """The variable actions present: imposed loads by category, snow, wind."""
    found: dict[Variable, None] = {}
    for case in cases:
        if case.nature == "imposed":
            found[("imposed", case.category)] = None
        elif case.nature in ("snow", "wind"):
            found[(case.nature, None)] = None
    return list(found)


@dataclass(frozen=True)
class Partial:
    """Partial factors of one set of EN 1990 table A1.2."""

    name: str
    factor_set: FactorSet
    serves: tuple[Serves, ...]
    heavy: float
    light: float
    variable: float


CONCRETE: tuple[Serves, ...] = ("ultimate", "concrete")
SETS: dict[str, tuple[Partial, ...]] = {
    "DA1": (
        Partial("A1 (set B)", "M1", CONCRETE, 1.35, 1.0, 1.5),
        Partial("A2 (set C)", "M2", ("ultimate",), 1.0, 1.0, 1.3),
    ),
    "DA2": (Partial("A1 (set B) + R2", "M1+R2", CONCRETE, 1.35, 1.0, 1.5),),
    "DA2*": (Partial("A1 (set B) + R2, DA2*", "M1+R2*", CONCRETE, 1.35, 1.0, 1.5),),
    "DA3": (Partial("A1 (set B) + M2", "M2", CONCRETE, 1.35, 1.0, 1.5),),
}
"""Sets of actions, strengths and resistances by design approach (EN 1997-1 2.4.7.3.4). DA3: loads of a structure."""


def en1990(cases: Sequence[LoadCase], form: str = "6.10", approach: str = "DA1") -> list[Template]:
    """Combinations for a design approach of EN 1997-1, recommended values.

    ``form``: "6.10", or "6.10a/b" for the pair of expressions (with xi = 0.85) in set A1. Each variable action
    leads in turn, with the others at psi0, and once more without wind where that may relieve.
    """
    variables = _variables(cases)

    def others(lead: Variable | None, factor: float, which: int, wind: bool = True) -> tuple[Term, ...]:
        return tuple(
            Term(nature, factor * psi(nature, category)[which], category)
            for nature, category in variables
            if (nature, category) != lead and (wind or nature != "wind")
        )

    def leading(factor: float) -> list[tuple[Variable, tuple[Term, ...]]]:
        """Each leading action with all others, and without wind."""
        found: list[tuple[Variable, tuple[Term, ...]]] = []
        for lead in variables:
            first = (Term(lead[0], factor, lead[1], leads=True),)
            found.append((lead, first + others(lead, factor, 0)))
            if lead[0] != "wind" and any(nature == "wind" for nature, _ in variables):
                found.append((lead, first + others(lead, factor, 0, wind=False)))
        return found

    def served(factor: float) -> list[tuple[Term, ...]]:
        """Each leading action with all others, without wind, and alone: what relieves is left out."""
        alone = [((Term(lead[0], factor, lead[1], leads=True),)) for lead in variables]
        return list(dict.fromkeys([*(terms for _, terms in leading(factor)), *alone]))

    templates = [Template("(6.14b) characteristic", ("allowable",), 1.0, terms) for terms in served(1.0)]
    templates.append(Template("(6.14b) characteristic", ("allowable",), 1.0))
    for partial in SETS[approach]:
        kind, light = partial.factor_set, partial.light
        reduced = form == "6.10a/b" and partial.heavy > 1.0
        heavy = partial.heavy * (0.85 if reduced else 1.0)
        clause = f"({'6.10b' if reduced else '6.10'}) {partial.name}"
        weights = (heavy, light)
        # actions of the ground have the factors of set A2 in DA3
        pressing = (1.0,) if approach == "DA3" else (partial.heavy, light)
        if reduced:
            full = (partial.heavy, light)
            without = others(None, partial.variable, 0, wind=False)
            for every in dict.fromkeys((others(None, partial.variable, 0), without)):
                templates.append(
                    Template(
                        f"(6.10a) {partial.name}",
                        partial.serves,
                        partial.heavy,
                        every,
                        full,
                        kind,
                        lateral=pressing,
                    )
                )
        for permanent in dict.fromkeys((heavy, light)):
            pair = weights if permanent == heavy else (light, light)
            templates += [
                Template(clause, partial.serves, permanent, t, pair, kind, lateral=pressing)
                for t in served(partial.variable)
                # wind alone with light weights stands below, with high water
                if permanent != light or [term.nature for term in t] != ["wind"]
            ]
            templates.append(Template(clause, partial.serves, permanent, (), pair, kind, lateral=pressing))
        for lead in variables:
            only = (Term(lead[0], partial.variable, lead[1], leads=True),)
            if lead[0] == "wind":
                templates.append(
                    Template(
                        clause,
                        partial.serves,
                        light,
                        only,
                        (light, light),
                        kind,
                        water="high",
                        lateral=pressing,
                    )
                )
    for lead in variables:
        first = (Term(lead[0], 1.5, lead[1], leads=True),)
        templates.append(
            Template("(6.10) EQU, set A", ("EQU",), 0.9, first, (0.9, 0.9), water="high", lateral=(1.1, 0.9))
        )
        templates.append(
            Template(
                "UPL, EN 1997-1 table A.15",
                ("UPL",),
                0.9,
                first,
                (0.9, 0.9),
                water="high",
                lateral=(1.0, 0.9),
            )
        )
    templates.append(
        Template("UPL, EN 1997-1 table A.15", ("UPL",), 0.9, (), (0.9, 0.9), water="high", lateral=(1.0, 0.9))
    )
    templates.append(
        Template("(6.10) EQU, set A", ("EQU",), 0.9, (), (0.9, 0.9), water="high", lateral=(1.1, 0.9))
    )
    both: tuple[Serves, ...] = ("ultimate", "concrete")
    impact, quake = Term("accidental", 1.0, leads=True), Term("seismic", 1.0, leads=True)
    special: list[tuple[str, DesignSituation, tuple[Term, ...], FactorSet]] = [
        (
            "(6.11b) accidental",
            "accidental",
            (impact, Term(main[0], psi(*main)[1], main[1]), *others(main, 1.0, 2)),
            "M1",
        )
        for main in variables
    ]
    special += [
        ("(6.11b) accidental", "accidental", (impact,), "M1"),
        # strengths of the ground by EN 1998-5 3.1: 1.25 on tan phi', 1.4 on c_u
        ("(6.12b) seismic", "seismic", (quake, *others(None, 1.0, 2)), "M2"),
        ("(6.12b) seismic", "seismic", (quake,), "M2"),
    ]  # fmt: skip
    stability: tuple[Serves, ...] = ("EQU", "UPL")
    for clause, situation, terms, strengths in special:
        templates.append(Template(clause, both, 1.0, terms, factor_set=strengths, situation=situation))
        # presumed pressures and factors of safety, and overturning and uplift, with the same actions
        templates.append(Template(clause, ("allowable",), 1.0, terms, situation=situation))
        templates.append(Template(clause, stability, 1.0, terms, situation=situation, water="high"))
    templates.append(
        Template("(6.16b) quasi-permanent", ("settlement long", "cracks"), 1.0, others(None, 1.0, 2))
    )
    for main in variables:
        first = (Term(main[0], psi(*main)[1], main[1], leads=True),)
        templates.append(
            Template("(6.15b) frequent", ("settlement short",), 1.0, first + others(main, 1.0, 2))
        )
    return templates


def asce7(cases: Sequence[LoadCase], edition: str = "7-16") -> list[Template]:
    """Strength combinations (2.3) for concrete, allowable-stress ones (2.4) for the ground.

    Between the editions the factors of snow differ, as ASCE 7-22 gives ground snow loads at strength level.
    Roof live load is an imposed load of the category "roof".
    """
    newer = edition == "7-22"
    others = {c.category for c in cases if c.nature == "imposed" and c.category != "roof"} or {""}

    def live(factor: float) -> tuple[Term, ...]:
        return tuple(Term("imposed", factor, category) for category in sorted(others))

    def roof(roof_factor: float, snow_factor: float, leads: bool = False) -> list[tuple[Term, ...]]:
        """Roof live load or snow; neither where the project has none."""
        ways: list[tuple[Term, ...]] = []
        if any(c.category == "roof" for c in cases):
            ways.append((Term("imposed", roof_factor, "roof", leads),))
        if any(c.nature == "snow" for c in cases):
            ways.append((Term("snow", snow_factor, leads=leads),))
        return ways or ([] if leads else [()])

    wind, quake = Term("wind", 1.0, leads=True), Term("seismic", 1.0, leads=True)
    strength: list[Template] = [Template("2.3.1(1)", ("concrete",), 1.4, (), (1.4, 0.9), lateral=(1.6, 0.9))]

    def add(clause: str, permanent: float, terms: tuple[Term, ...], **more: object) -> None:
        heavy = (permanent, min(permanent, 0.9))
        # H: 1.6 where it adds, 0.9 where it relieves (2.3.1, exception 2 and its list)
        strength.append(Template(clause, ("concrete",), permanent, terms, heavy, lateral=(1.6, 0.9), **more))  # type: ignore[arg-type]

    light_snow = 0.3 if newer else 0.5
    for top in roof(0.5, light_snow):
        add("2.3.1(2)", 1.2, (*live(1.6), *top))
    for top in roof(1.6, 1.0 if newer else 1.6, leads=True):
        add("2.3.1(3)", 1.2, (*top, *live(1.0)))
        add("2.3.1(3)", 1.2, (*top, Term("wind", 0.5, leads=True)))
    for top in roof(0.5, light_snow):
        add("2.3.1(4)", 1.2, (wind, *live(1.0), *top))
    add("2.3.1(5)", 0.9, (wind,))
    add("2.3.6(6)", 1.2, (quake, *live(1.0), Term("snow", 0.15 if newer else 0.2)), situation="seismic")
    add("2.3.6(7)", 0.9, (quake,), situation="seismic")
    impact = Term("accidental", 1.0, leads=True)
    add("2.5.2.1", 1.2, (impact, *live(0.5), Term("snow", 0.15 if newer else 0.2)), situation="accidental")
    add("2.5.2.1", 0.9, (impact,), situation="accidental")
    ground: list[Template] = [Template("2.4.1(1)", ("allowable", "settlement long"), 1.0)]
    # what lasts of live loads is not in the standard: half of it, so that none drops out of the settlement
    if any(c.nature == "imposed" for c in cases):
        lasting = (
            *live(0.5),
            *((Term("imposed", 0.5, "roof"),) if any(c.category == "roof" for c in cases) else ()),
        )
        ground.append(
            Template("own choice: half of the live loads lasts", ("settlement long",), 1.0, lasting)
        )

    def allow(clause: str, permanent: float, terms: tuple[Term, ...], **more: object) -> None:
        both = (permanent, permanent)
        ground.append(Template(clause, ("allowable",), permanent, terms, both, lateral=(1.0, 0.6), **more))  # type: ignore[arg-type]

    snow = 0.7 if newer else 1.0
    allow("2.4.1(2)", 1.0, live(1.0))
    for top in roof(1.0, snow, leads=True):
        allow("2.4.1(3)", 1.0, top)
    for top in roof(0.75, 0.75 * snow):
        allow("2.4.1(4)", 1.0, (*live(0.75), *top))
        allow("2.4.1(6)", 1.0, (*live(0.75), Term("wind", 0.45, leads=True), *top))
    allow("2.4.1(5)", 1.0, (Term("wind", 0.6, leads=True),))
    allow("2.4.1(7)", 0.6, (Term("wind", 0.6, leads=True),))
    allow("2.4.5(8)", 1.0, (Term("seismic", 0.7, leads=True),), situation="seismic")
    allow(
        "2.4.5(9)",
        1.0,
        (Term("seismic", 0.525, leads=True), *live(0.75), Term("snow", 0.75 * (0.15 if newer else 1.0))),
        situation="seismic",
    )
    allow("2.4.5(10)", 0.6, (Term("seismic", 0.7, leads=True),), situation="seismic")
    allow("2.5.2.1, with nominal weights", 1.0, (impact, *live(0.5)), situation="accidental")
    allow("2.5.2.1, with nominal weights", 0.6, (impact,), situation="accidental")
    return strength + ground


def asnzs1170(cases: Sequence[LoadCase]) -> list[Template]:
    """AS/NZS 1170.0:2002 clauses 4.2 and 4.3 with psi_s 0.7, psi_l 0.4, psi_c 0.4, psi_E 0.3 (0.6 for storage)."""
    storage = any(c.nature == "imposed" and c.category == "storage" for c in cases)
    short, long, combined, quake = (1.0, 0.6, 0.6, 0.6) if storage else (0.7, 0.4, 0.4, 0.3)
    strength = [
        (("4.2.2(a)", 1.35), ()),
        (("4.2.2(b)", 1.2), (Term("imposed", 1.5, leads=True),)),
        (("4.2.2(c)", 1.2), (Term("imposed", 1.5 * long, leads=True),)),
        (("4.2.2(d)", 1.2), (Term("wind", 1.0, leads=True), Term("imposed", combined))),
        (("4.2.2(e)", 0.9), (Term("wind", 1.0, leads=True),)),
        (("4.2.2(f)", 1.0), (Term("seismic", 1.0, leads=True), Term("imposed", quake))),
        (("4.2.2(g)", 1.2), (Term("snow", 1.0, leads=True), Term("imposed", combined))),
        (("4.2.4", 1.0), (Term("accidental", 1.0, leads=True), Term("imposed", long))),
    ]
    templates = [
        Template(
            clause, ("concrete",), permanent, terms, (permanent, min(permanent, 0.9)),
            situation="seismic" if any(t.nature == "seismic" for t in terms) else "accidental" if any(t.nature == "accidental" for t in terms) else "persistent",
            lateral=(1.5, 0.9),
        )
        for (clause, permanent), terms in strength
    ]  # fmt: skip
    service: list[tuple[str, tuple[Serves, ...], tuple[Term, ...]]] = [
        ("4.3 short-term", ("allowable", "settlement short"), (Term("imposed", short),)),
        ("4.3 long-term", ("settlement long", "cracks"), (Term("imposed", long),)),
        ("4.3 full imposed", ("allowable",), (Term("imposed", 1.0, leads=True),)),
        ("4.3 wind", ("allowable",), (Term("wind", 1.0, leads=True), Term("imposed", short))),
        ("4.3 wind alone", ("allowable", "settlement short"), (Term("wind", 1.0, leads=True),)),
        (
            "4.3 snow",
            ("allowable", "settlement short"),
            (Term("snow", 1.0, leads=True), Term("imposed", short)),
        ),
        ("4.3 seismic", ("allowable",), (Term("seismic", 1.0, leads=True), Term("imposed", quake))),
        ("4.2.4, unfactored", ("allowable",), (Term("accidental", 1.0, leads=True), Term("imposed", long))),
    ]
    templates += [Template(clause, serves, 1.0, terms) for clause, serves, terms in service]
    stability: tuple[tuple[Term, ...], ...] = (
        (Term("wind", 1.0, leads=True),), (Term("imposed", 1.5, leads=True),), (Term("snow", 1.0, leads=True),), (Term("seismic", 1.0, leads=True), Term("imposed", quake)),
        (Term("accidental", 1.0, leads=True),), (),
    )  # fmt: skip
    templates += [
        Template("4.2.1 stability", ("EQU", "UPL"), 0.9, terms, (0.9, 0.9), water="high", lateral=(1.5, 0.9))
        for terms in stability
    ]
    return templates


RULES: dict[str, Callable[[Sequence[LoadCase]], list[Template]]] = {
    "EN 1990 (6.10), DA1": en1990,
    "EN 1990 (6.10a/b), DA1": lambda cases: en1990(cases, "6.10a/b"),
    "EN 1990 (6.10), DA2": lambda cases: en1990(cases, approach="DA2"),
    "EN 1990 (6.10), DA2*": lambda cases: en1990(cases, approach="DA2*"),
    "EN 1990 (6.10), DA3": lambda cases: en1990(cases, approach="DA3"),
    "ASCE 7-16": asce7,
    "ASCE 7-22": lambda cases: asce7(cases, "7-22"),
    "AS/NZS 1170.0": asnzs1170,
}
"""The rule sets by name."""


def combinations_for(rules: str, cases: Sequence[LoadCase]) -> list[Combination]:
    """Combinations by a rule set.

    Raises:
        KeyError: when there is no rule set of that name.
    """
    source = rules.split(" (")[0].split(",")[0]
    return generated(RULES[rules](cases), cases, source)
