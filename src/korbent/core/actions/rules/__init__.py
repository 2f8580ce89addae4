"""Rule sets for combinations: EN 1990 with EN 1997-1, ASCE 7-16 and 7-22, AS/NZS 1170.0.

Each standard is a file of data beside this one: values with their source, combination values by category, and rows. A
row says which questions it serves, the factors of permanent cases, and the terms of the others; ``leading`` lets each
variable action lead in turn with ``others`` beside it. ``again`` gives the row once more with some of its entries
changed. This module reads those files and makes templates of them for the cases of a project; factors are formulas of
the values, which a project may change (national annexes)."""

import ast
import operator
import tomllib
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from importlib import resources
from itertools import product
from typing import Any, NamedTuple, get_args

from korbent.core.actions.generate import Template, Term, generated
from korbent.core.model.actions import Combination, LoadCase, Nature
from korbent.core.model.labels import label
from korbent.words import say, worded

FILES = ("en1990.toml", "asce7.toml", "asnzs1170.toml")
VARIABLE: tuple[Nature, ...] = ("imposed", "snow", "wind", "temperature", "fluid", "rain")
"""Natures that lead in turn."""
Names = Mapping[str, float]


class Value(NamedTuple):
    """A number that a rule set uses."""

    name: str
    value: float
    source: str
    about: str


class Kind(NamedTuple):
    """Cases of a nature: of some categories only, or of all but some."""

    nature: Nature
    only: tuple[str, ...] = ()
    but: tuple[str, ...] = ()


@dataclass(frozen=True)
class RuleSet:
    """One rule set as data."""

    name: str
    source: str
    values: tuple[Value, ...]
    """Those by category are named like ``psi0 A``."""
    rows: tuple[Mapping[str, Any], ...]
    partials: tuple[Mapping[str, Any], ...]
    kinds: Mapping[str, Kind]
    psi: tuple[str, ...] = ()
    """Names of the combination values, as ``psi0``."""
    without: str = ""
    """The category that an imposed load without one has."""
    also: Mapping[str, str] = field(default_factory=dict)
    """Categories of other standards, and as which they count here."""

    def numbers(self, changed: Names) -> dict[str, float]:
        """All values, as a project has them."""
        return {v.name: changed.get(v.name, v.value) for v in self.values}


# ---------------------------------------------------------------- files


@cache
def _sets() -> dict[str, RuleSet]:
    found = {}
    for file in FILES:
        data = tomllib.loads(resources.files(__package__).joinpath(file).read_text("utf-8"))
        for own in data["sets"]:
            found[own["name"]] = _read(data, own)
    return found


def _read(data: dict[str, Any], own: dict[str, str]) -> RuleSet:
    """One of the sets of a file: the rows and partial factors that its choices leave."""
    choices = {k: v for k, v in own.items() if k not in ("name", "source")}
    values = []
    for name, entry in data["values"].items():
        value = entry["value"] if "value" in entry else next(entry[c] for c in choices.values() if c in entry)
        values.append(Value(name, float(value), entry["source"], worded(entry["about"])))
    psi = data.get("psi", {"names": [], "of": {}, "source": "", "without": "", "also": {}})
    for category, numbers in psi["of"].items():
        for name, number in zip(psi["names"], numbers):
            about = say("category {category}", category=category) if category.isupper() else _words(category)
            values.append(Value(f"{name} {category}", float(number), psi["source"], about))

    def stays(entry: Mapping[str, Any]) -> bool:
        return all(choice in entry.get(k, choice) for k, choice in choices.items())

    partials = tuple(p for p in data.get("partials", ()) if all(p.get(k, c) == c for k, c in choices.items()))
    kinds = {n: Kind(n) for n in get_args(Nature)}
    for name, kind in data.get("kinds", {}).items():
        kinds[name] = Kind(kind["nature"], tuple(kind.get("only", ())), tuple(kind.get("but", ())))
    return RuleSet(
        own["name"],
        own.get("source", data["source"]),
        tuple(values),
        tuple(row for row in data["rows"] if stays(row)),
        partials,
        kinds,
        tuple(psi["names"]),
        psi["without"],
        psi["also"],
    )


def _words(category: str) -> str:
    """A nature with its category, as it is read."""
    return " ".join(label(part) for part in category.split())


RULES: tuple[str, ...] = tuple(_sets())
"""The names of the rule sets."""


def rule_set(name: str) -> RuleSet:
    """A rule set.

    Raises:
        KeyError: when there is none of that name.
    """
    return _sets()[name]


# ---------------------------------------------------------------- formulas

_OPERATORS: dict[type[ast.operator], Any] = {
    ast.Add: operator.add,
    ast.Sub: operator.sub,
    ast.Mult: operator.mul,
    ast.Div: operator.truediv,
}


@cache
def _parsed(formula: str) -> ast.expr:
    return ast.parse(formula, mode="eval").body


def number(formula: str, names: Names) -> float:
    """The value of a formula of numbers, names and + - * /.

    Raises:
        ValueError: for anything else, and for a name that is not known.
    """

    def walk(node: ast.expr) -> float:
        if isinstance(node, ast.Constant) and isinstance(node.value, (int, float)):
            return float(node.value)
        if isinstance(node, ast.Name) and node.id in names:
            return float(names[node.id])
        if isinstance(node, ast.BinOp) and type(node.op) in _OPERATORS:
            return float(_OPERATORS[type(node.op)](walk(node.left), walk(node.right)))
        raise ValueError(say("'{formula}' is no formula of the values of this rule set", formula=formula))

    return walk(_parsed(formula))


# ---------------------------------------------------------------- templates


def templates(rules: RuleSet, cases: Sequence[LoadCase], changed: Names | None = None) -> list[Template]:
    """The rows of a rule set for these cases; ``changed``: values that the project has otherwise."""
    names = rules.numbers(changed or {})
    return [t for row in rules.rows for t in _of_row(rules, row, cases, names)]


def _partials(rules: RuleSet, row: Mapping[str, Any]) -> Sequence[Mapping[str, Any]]:
    """The sets of partial factors that a row is for; an empty one where it is for none."""
    if "partial" not in row:
        return ({},)
    return [p for p in rules.partials if p["table"] in row["partial"]]


def _of_row(rules: RuleSet, row: Mapping[str, Any], cases: Sequence[LoadCase], names: Names) -> Iterator[Template]:
    for partial in _partials(rules, row):
        known = dict(names) | {k: number(v, names) for k, v in partial.get("values", {}).items()}
        full = {k: v for k, v in partial.items() if k in ("factor_set", "serves")} | dict(row)
        full["clause"] = worded(row["clause"]).format(name=worded(partial.get("name", "")))
        for changes in ({}, *row.get("again", ())):
            yield from _made(rules, full | changes, cases, known)


def _made(rules: RuleSet, row: Mapping[str, Any], cases: Sequence[LoadCase], names: Names) -> Iterator[Template]:
    permanents = [number(text, names) for text in row["permanent"]]
    apart = bool(row.get("apart"))
    lateral = tuple(number(text, names) for text in row["lateral"]) if "lateral" in row else None
    for permanent in permanents[:1] if apart else permanents:
        weights = tuple(number(text, names) for text in row["weights"]) if "weights" in row else (permanent,) * 2
        for terms in _ways(rules, row, cases, names):
            yield Template(
                row["clause"],
                tuple(row["serves"]),
                permanent,
                terms,
                (weights[0], weights[1]),
                row.get("factor_set") or None,
                row.get("situation", "persistent"),
                row.get("water", "normal"),
                lateral=lateral,
                permanents=tuple(permanents) if apart else (),
            )


def _ways(rules: RuleSet, row: Mapping[str, Any], cases: Sequence[LoadCase], names: Names) -> list[tuple[Term, ...]]:
    """The sets of terms of a row: explicit ones, and each variable action leading with the others beside it."""
    own = _explicit(rules, row.get("terms", ()), cases, names)
    if "leading" not in row and "others" not in row:
        return own
    variables = _variables(cases)
    leads: Sequence[Kind | None] = variables if "leading" in row else (None,)
    found = []
    for lead in leads:
        first: tuple[Term, ...] = ()
        if lead is not None:
            first = (_term(lead, number(row["leading"], _with_psi(rules, lead, names)), True, patterns=True),)
        others = (
            tuple(
                _term(kind, number(row["others"], _with_psi(rules, kind, names))) for kind in variables if kind != lead
            )
            if "others" in row
            else ()
        )
        for beside in row.get("beside", ("all",)):
            one_absent = [tuple(t for t in others if t is not gone) for gone in others]
            by_word: dict[str, list[tuple[Term, ...]]] = {
                "all": [others],
                "none": [()],
                "one absent": one_absent,
            }
            kept = by_word[beside]
            found += [(*terms, *first, *some) for some in kept for terms in own]
    return list(dict.fromkeys(found))


def _variables(cases: Sequence[LoadCase]) -> list[Kind]:
    """The variable actions present: one for each category."""
    found: dict[Kind, None] = {}
    for case in cases:
        if case.nature in VARIABLE:
            found[_kind_of(case)] = None
    return list(found)


def _kind_of(case: LoadCase) -> Kind:
    """A case among those of its kind: imposed and snow loads by category, others by nature."""
    if case.nature not in ("imposed", "snow"):
        return Kind(case.nature)
    return Kind(case.nature, only=(case.category,))


def _with_psi(rules: RuleSet, kind: Kind, names: Names) -> Names:
    """The values, with the combination values of an action."""
    category = kind.only[0] if kind.only else ""
    if kind.nature == "imposed":
        key = rules.also.get(category, category) or rules.without
    else:
        key = f"{kind.nature} {category}".strip()
    return dict(names) | {name: names[f"{name} {key}"] for name in rules.psi if f"{name} {key}" in names}


def _term(kind: Kind, factor: float, leads: bool = False, across: float | None = None, patterns: bool = False) -> Term:
    return Term(kind.nature, factor, kind.only or None, leads, kind.but, across, patterns)


def _explicit(
    rules: RuleSet, entries: Sequence[Mapping[str, Any]], cases: Sequence[LoadCase], names: Names
) -> list[tuple[Term, ...]]:
    """The ways in which the terms of a row act; nothing where a leading alternative has no case."""
    parts: list[list[tuple[Term, ...]]] = []
    for entry in entries:
        if "either" not in entry:
            parts.append([_split(rules, entry, cases, names)])
            continue
        leads = bool(entry.get("leads"))
        present = [e for e in entry["either"] if _present(rules.kinds[e["of"]], cases)]
        parts.append([_split(rules, e | {"leads": leads}, cases, names) for e in present] or ([] if leads else [()]))
    return [tuple(t for part in way for t in part) for way in product(*parts)]


def _present(kind: Kind, cases: Sequence[LoadCase]) -> list[LoadCase]:
    return [
        c
        for c in cases
        if c.nature == kind.nature and (not kind.only or c.category in kind.only) and c.category not in kind.but
    ]


def _split(rules: RuleSet, entry: Mapping[str, Any], cases: Sequence[LoadCase], names: Names) -> tuple[Term, ...]:
    """A term, or one for each category where its factor depends on it."""
    kind = rules.kinds[entry["of"]]
    leads, patterns = bool(entry.get("leads")), bool(entry.get("patterns"))
    across = number(entry["across"], names) if "across" in entry else None
    if not any(name in entry["factor"] for name in rules.psi):
        return (_term(kind, number(entry["factor"], names), leads, across, patterns),)
    kinds = list(dict.fromkeys(_kind_of(c) for c in _present(kind, cases)))
    found = tuple(_term(k, number(entry["factor"], _with_psi(rules, k, names)), False, across, patterns) for k in kinds)
    # where it leads there must be some case of it with a factor
    return found if not leads or any(t.factor for t in found) else (_term(kind, 0.0, True),)


def combinations_for(rules: str, cases: Sequence[LoadCase], changed: Names | None = None) -> list[Combination]:
    """Combinations by a rule set.

    Args:
        changed: values of the rule set that differ, by name (see :class:`RuleSet`).

    Raises:
        KeyError: when there is no rule set of that name.
    """
    own = rule_set(rules)
    return generated(templates(own, cases, changed), cases, own.source)


# ---------------------------------------------------------------- to be read


class Said(NamedTuple):
    """A row of a rule set in words."""

    clause: str
    serves: tuple[str, ...]
    """Keys, as those of water and situation."""
    permanent: str
    weights: str
    pressing: str
    others: str
    water: str
    situation: str


def said(rules: RuleSet) -> list[Said]:
    """The rows of a rule set as a table."""
    found = []
    for row in rules.rows:
        for partial in _partials(rules, row):
            meant = {k: str(v) for k, v in partial.get("values", {}).items()}
            for changes in ({}, *row.get("again", ())):
                full = dict(partial) | dict(row) | changes
                clause = worded(full["clause"]).format(name=worded(partial.get("name", "")))
                found.append(_in_words(full | {"clause": clause}, meant))
    return found


def _in_words(row: Mapping[str, Any], meant: Mapping[str, str]) -> Said:
    def formula(text: str) -> str:
        for name, stands_for in meant.items():
            text = "*".join(stands_for if part == name else part for part in text.split("*"))
        return text.replace("*", " ").removeprefix("1 ")

    def turns(entries: Sequence[str]) -> str:
        return say(" or ").join(dict.fromkeys(formula(e) for e in entries))

    def term(entry: Mapping[str, Any]) -> str:
        if "either" in entry:
            return say(" or ").join(term(e) for e in entry["either"])
        lone = say(" (all, and some absent)") if entry.get("patterns") else ""
        more = say(" (and with a share of its other directions)") if "across" in entry else ""
        return f"{formula(entry['factor'])} {label(entry['of'])}{lone}{more}"

    terms = [term(e) for e in row.get("terms", ())]
    if "leading" in row:
        terms.append(say("each variable action × {formula}", formula=formula(row["leading"])))
    if "others" in row:
        beside = [b if b != "all" else "with" for b in row.get("beside", ("all",))]
        which = {"with": say("all others"), "one absent": say("one of them absent"), "none": say("without others")}
        terms.append(
            say(
                "others × {formula} ({which})",
                formula=formula(row["others"]),
                which=", ".join(which[b] for b in beside),
            )
        )
    permanent = turns(row["permanent"]) + (say(", each apart") if row.get("apart") else "")
    return Said(
        row["clause"],
        tuple(row["serves"]),
        permanent,
        turns(row["weights"]) if "weights" in row else say("as those"),
        turns(row["lateral"]) if "lateral" in row else say("as those"),
        " + ".join(terms),
        row.get("water", "normal"),
        row.get("situation", "persistent"),
    )
