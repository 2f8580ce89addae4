"""What taking over a table of loads would change, what it leaves open, and the project with it."""

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import get_args

from pydantic import ValidationError

from korbent.core.actions.generate import IMPORTED
from korbent.core.model import Combination, Load, LoadCase, LoadPoint, Problem, Project
from korbent.core.model.actions import Nature, Serves
from korbent.files.loads.read import LoadTable
from korbent.files.sheet import TableError
from korbent.words import say


@dataclass(frozen=True)
class Change:
    """One quantity of one case at one load point that differs."""

    point: str
    case: str
    quantity: str
    old: float
    new: float


@dataclass(frozen=True)
class Differences:
    """What taking over a table would change."""

    new_points: tuple[str, ...]
    gone: tuple[str, ...]
    """Columns of the project with loads that the table does not have; they stay as they are."""
    new_cases: tuple[str, ...]
    changes: tuple[Change, ...]
    problems: tuple[Problem, ...]
    asks: tuple["Ask", ...] = ()
    """What must be confirmed or chosen before the table is taken over."""

    @property
    def open(self) -> tuple["Ask", ...]:
        """What was not answered yet."""
        return tuple(ask for ask in self.asks if not ask.answered)


@dataclass(frozen=True)
class Ask:
    """A question that only a person can answer: ``key`` is confirmed, or for a case one of the choices is taken."""

    key: str
    text: str
    choices: tuple[str, ...] = ()
    answered: bool = False


def differences(project: Project, table: LoadTable) -> Differences:
    """Compares a table with a project, load point by load point."""
    points = {p.name: p for p in project.actions.load_points}
    cases = {c.name for c in project.actions.cases}
    changes = []
    for name, by_case in table.loads.items():
        old = points[name].loads if name in points else {}
        for case, load in by_case.items():
            before = old.get(case, Load())
            for quantity in Load.model_fields:
                a, b = getattr(before, quantity), getattr(load, quantity)
                if abs(a - b) > 1e-6 * max(1.0, abs(a)):
                    changes.append(Change(name, case, quantity, a, b))
    new_points = tuple(name for name in table.loads if name not in points)
    problems = tuple(
        Problem(
            name,
            say("is not in the project and the table gives no x and y for it: add the column first, or map x and y"),
        )
        for name in new_points
        if name not in table.places
    )
    problems += tuple(_impossible(table, new_points))
    new_cases = tuple(case for case in table.cases if case not in cases)
    problems += tuple(
        Problem(say("case {case}…", case=case[:30]), say("the name is longer than 80 characters"))
        for case in new_cases
        if len(case) > 80
    )
    return Differences(
        new_points,
        tuple(p.name for p in points.values() if p.loads and p.name not in table.loads),
        new_cases,
        tuple(changes),
        (*table.problems, *problems),
        tuple(_asks(project, table, new_cases)),
    )


def _asks(project: Project, table: LoadTable, new_cases: Sequence[str]) -> Iterator[Ask]:
    """What the table leaves open and was not answered."""
    reading = table.reading
    if reading is None or not table.loads:
        return
    every = [load for by_case in table.loads.values() for load in by_case.values()]
    asked: list[Ask] = []
    if reading.assumed:
        units = ", ".join(dict.fromkeys(f"{role} in {reading.units[role]}" for role in reading.assumed))
        asked.append(
            Ask(
                "units",
                say(
                    "The table names no unit for these; as in the project: {units}{against}.",
                    units=units,
                    against=_against(project, table),
                ),
            )
        )
    lifting = sum(load.V < -1e-9 for load in every)
    if lifting > len(every) / 2:
        asked.append(
            Ask(
                "lifting",
                say(
                    "{lifting} of {every} vertical loads would lift the foundations: are they reactions, or is V down?",
                    lifting=lifting,
                    every=len(every),
                ),
            )
        )
    side = sum(abs(load.Hy) for load in every), sum(abs(load.Hx) for load in every)
    down = sum(abs(load.V) for load in every)
    if reading.up == "z" and side[0] > 3 * down and side[0] > 3 * side[1]:
        asked.append(Ask("up", say("The forces along y are by far the greatest: does y point upwards in this table?")))
    combined = [case for case in new_cases if is_combination(case)]
    if combined:
        asked.append(
            Ask(
                "combinations",
                say(
                    "{some} look like combinations: each is taken as it is, acting alone with the factor 1, and is "
                    "not factored again.",
                    some=_some(combined),
                ),
            )
        )
    for case in new_cases:
        if (
            not is_combination(case)
            and nature_of(case) is None
            and (case in reading.natures or case not in table.natures)
        ):
            asked.append(Ask(f"nature:{case}", say("What kind of action is {case!r}?", case=case), get_args(Nature)))
    given = {*reading.answers, *(f"nature:{case}" for case in reading.natures)}
    yield from (replace(ask, answered=ask.key in given) for ask in asked)


def _against(project: Project, table: LoadTable) -> str:
    """How the table's vertical loads compare with those that stand in the project, where they have cases in common."""
    points = {p.name: p for p in project.actions.load_points}
    ours = theirs = 0.0
    for name, by_case in table.loads.items():
        for case, load in by_case.items():
            if name in points and case in points[name].loads:
                ours, theirs = ours + abs(points[name].loads[case].V), theirs + abs(load.V)
    return (
        say("; the vertical loads are then {theirs:.3g} times those of the project", theirs=theirs / ours)
        if ours > 0
        else ""
    )


def _some(names: Sequence[str], most: int = 6) -> str:
    return ", ".join(names[:most]) + (" …" if len(names) > most else "")


COMBINED = re.compile(
    r"(\d(\.\d+)?\s*[*·x(]?\s*[A-Za-z]\w*.*[+−-].*[A-Za-z])|\b(uls|sls|equ|str|geo|comb\w*|combo|lrfd|asd|envelope|env|lc?omb)[\s_\-]*\d*",
    re.IGNORECASE,
)


def is_combination(case: str) -> bool:
    """A case of a table that is called like a combination: 1.35G+1.5Q, ULS 3, COMB12, an envelope's greatest or
    least."""
    return bool(COMBINED.search(case)) or bool(re.search(r"\b(max|min)$", case))


def _impossible(table: LoadTable, names: Sequence[str]) -> Iterator[Problem]:
    """What makes new columns impossible: a size that is none, a name that is too long."""
    for name in names:
        if name in table.places:
            try:
                _new_point(table, name, 0.0)
            except ValidationError as error:
                first = error.errors()[0]
                yield Problem(f"{name[:40]}, {'.'.join(map(str, first['loc']))}", first["msg"].lower())


def taken_over(project: Project, table: LoadTable) -> Project:
    """The project with the loads of a table: cases of a point that the table does not have stay.

    Imported values are remembered beside the loads, so that a later change by hand can be seen and taken back.

    Raises:
        TableError: when the table has problems.
    """
    found = differences(project, table)
    if found.problems:
        raise TableError("; ".join(map(str, found.problems)))
    if found.open:
        raise TableError("; ".join(ask.text for ask in found.open))
    actions = project.actions
    cases = actions.cases + tuple(_new_case(table, name) for name in found.new_cases)
    combinations = (*actions.combinations, *_as_they_are(project, found.new_cases))
    points = []
    for point in actions.load_points:
        fresh = table.loads.get(point.name)
        if fresh is None:
            points.append(point)
        else:
            points.append(point.replaced(loads={**point.loads, **fresh}, imported={**point.imported, **fresh}))
    level = project.ground.surfaces.finished
    for name in found.new_points:
        points.append(_new_point(table, name, level))
    return project.replaced(actions=actions.replaced(cases=cases, load_points=tuple(points), combinations=combinations))


def _new_point(table: LoadTable, name: str, level: float) -> LoadPoint:
    """A column that the project does not have yet, as the table describes it."""
    x, y = table.places[name]
    fresh = table.loads[name]
    shape: dict[str, object] = {"size_x": 0.4, "size_y": 0.4, "level": level, **table.shapes.get(name, {})}
    return LoadPoint(name=name, x=x, y=y, loads=fresh, imported=fresh, **shape)


def _new_case(table: LoadTable, name: str) -> LoadCase:
    """A case that the project does not have yet; what is a combination already excludes all others."""
    if is_combination(name):
        return LoadCase(name=name, nature="imposed", exclusive=IMPORTED, description=say("imported as a combination"))
    nature = table.natures.get(name) or nature_of(name)
    assert nature is not None
    return LoadCase(name=name, nature=nature)


def _as_they_are(project: Project, cases: Sequence[str]) -> Iterator[Combination]:
    """A combination with the factor 1 for each imported one, serving what its name says: service, else strength."""
    number = max((c.number for c in project.actions.combinations), default=0)
    for case in cases:
        if is_combination(case):
            number += 1
            service = re.search(r"sls|asd|serv|char|freq|quasi", case, re.IGNORECASE)
            serves: tuple[Serves, ...] = ("allowable",) if service else ("ultimate", "concrete")
            yield Combination(
                number=number, name=case, factors={case: 1.0}, serves=serves, factor_set=None if service else "M1"
            )


WORDS: tuple[tuple[Nature, str], ...] = (
    ("soil", say(r"(earth|soil|lateral|active|at ?rest)[\s_\-]*(pressure|load|thrust)?|ep|ehe?|es")),
    ("water", r"water|hydro\w*|flood|fluid|groundwater|gw|buoyancy"),
    ("seismic", r"eq\d*[xy]?|e[xy]|earthquake|seismic|quake|spectrum|e|e[\s_]?[+\-−][xy]"),
    ("wind", r"w|wl|wind|w[\s_]?[+\-−]?[xyns]|wind[\s_]*[+\-−]?[xy]?\d*|w\d"),
    ("snow", r"s|sl|snow"),
    ("accidental", r"a|acc|accidental|impact|collision|ship[\s_]?impact|explosion|fire"),
    (
        "permanent",
        r"g\d*|gk|d|dl|sdl|sidl|dead|perm(anent)?|self[\s_\-]*weight|sw|own[\s_\-]*weight|superimposed[\s_]*dead|cladding|finishes|weight|dead[\s_]*load",
    ),
    ("imposed", r"q\d*|qk|l|ll|live|imposed|live[\s_]*load|lr|roof[\s_]*live|storage|crane|traffic|office|floor"),
)


def nature_of(case: str) -> Nature | None:
    """What kind of action a case is, where its name says so as a whole; None where that is a guess."""
    name = case.strip().lower()
    return next((nature for nature, words in WORDS if re.fullmatch(rf"(?:{words})", name)), None)


def totals(loads: Mapping[str, Mapping[str, Load]]) -> dict[str, Load]:
    """Sums of all points by case, to hold against the source."""
    sums: dict[str, dict[str, float]] = {}
    for by_case in loads.values():
        for case, load in by_case.items():
            total = sums.setdefault(case, dict.fromkeys(Load.model_fields, 0.0))
            for quantity in total:
                total[quantity] += getattr(load, quantity)
    return {case: Load(**total) for case, total in sums.items()}
