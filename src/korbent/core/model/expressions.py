"""Values that come from expressions: a safe evaluator, and how a project keeps its expressions up to date.

An expression such as ``=L/3 + 0.20`` may use the project's named quantities, the sizes of its own row, and those of
another pad (``P7.B``). Names carry their units: a plain number added to a length is a length in the shown unit, and
metres cannot be added to kilonewtons. Nothing is ever executed: the text is parsed, and only the operations listed
here are walked.
"""

import ast
import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from korbent.core.cache import remembered
from korbent.core.model.edit_paths import Path, path_of
from korbent.core.model.frozen import Expression, Row, unit_of
from korbent.core.model.labels import field_word
from korbent.core.units import SUBGRADE, UnitError, UnitSet, factor, shown_unit
from korbent.words import say


class ExpressionError(ValueError):
    """An expression that gives no value: what is wrong with it."""


@dataclass(frozen=True)
class Amount:
    """A number with its dimension as (exponent of length, of force, of angle, of time); None: a plain number."""

    value: float
    dimension: tuple[float, ...] | None = None


# unit in which amounts of each dimension are counted inside an expression, by stored unit
LENGTH, FORCE = (1.0, 0.0), (0.0, 1.0)
DIMENSIONS: dict[str, tuple[float, float]] = {
    "": (0.0, 0.0),
    "deg": (0.0, 0.0),
    "m": LENGTH,
    "mm": LENGTH,
    "kN": FORCE,
    "kNm": (1.0, 1.0),
    "kPa": (-2.0, 1.0),
    "MPa": (-2.0, 1.0),
    "kN/m3": (-3.0, 1.0),
    "kPa/m": (-3.0, 1.0),
    SUBGRADE: (-3.0, 1.0),
}
COHERENT = {
    "metric": {(1.0, 0.0): "m", (0.0, 1.0): "kN"},
    "us": {(1.0, 0.0): "ft", (0.0, 1.0): "kip"},
}
PAD_NAMES = {
    "B": "width",
    "L": "length",
    "h": "thickness",
    "level": "level",
    "ox": "offset_x",
    "oy": "offset_y",
}
POINT_NAMES = {"cx": "size_x", "cy": "size_y", "x": "x", "y": "y", "level": "level"}
FUNCTIONS: dict[str, Callable[..., float]] = {
    "sqrt": math.sqrt,
    "min": min,
    "max": max,
    "abs": abs,
    "round": round,
    "ceil": math.ceil,
    "floor": math.floor,
    "sin": lambda a: math.sin(math.radians(a)),
    "cos": lambda a: math.cos(math.radians(a)),
    "tan": lambda a: math.tan(math.radians(a)),
}
LONGEST = 200
DEEPEST = 40
STRANGE = "#;\\\n\r\t{}@`!?$~"
"""Signs that an expression has no use for; the language that reads it would pass over some of them in silence."""


def parsed(text: str) -> ast.expr:
    """The syntax tree of an expression, without its leading =.

    Raises:
        ExpressionError: when it is not one.
    """
    body = text.strip().removeprefix("=").replace("^", "**").replace("−", "-").replace("×", "*").strip()
    if not body:
        raise ExpressionError(say("nothing stands behind the ="))
    if len(body) > LONGEST:
        raise ExpressionError(say("it is longer than {longest} characters", longest=LONGEST))
    strange = next((c for c in body if c in STRANGE), "")
    if strange:
        raise ExpressionError(
            say("'{body}' cannot be read: {strange!r} has no meaning in it", body=body, strange=strange)
        )
    try:
        tree = ast.parse(body, mode="eval").body
    except (SyntaxError, ValueError, RecursionError, MemoryError):
        raise ExpressionError(say("'{body}' cannot be read: write such as =L/3 + 0.2", body=body)) from None
    if _depth(tree) > DEEPEST:
        raise ExpressionError(say("it is nested too deeply"))
    return tree


def _depth(node: ast.AST) -> int:
    deepest, stack = 0, [(node, 1)]
    while stack:
        here, depth = stack.pop()
        deepest = max(deepest, depth)
        stack.extend((child, depth + 1) for child in ast.iter_child_nodes(here))
    return deepest


def value_of(text: str, unit: str, units: UnitSet, amount: Callable[[str], tuple[float, str]]) -> float:
    """The value of an expression in the stored ``unit``.

    Args:
        units: the unit set in which plain numbers are meant.
        amount: gives (stored value, stored unit) of a name; raises KeyError where there is none.

    Raises:
        ExpressionError: with what is wrong.
    """
    system = units if isinstance(units, str) else units.system

    def counted(name: str) -> Amount:
        try:
            value, stored = amount(name)
        except KeyError as missing:
            known = str(missing.args[0]) if missing.args and missing.args[0] != name else ""
            raise ExpressionError(say("nothing is called '{name}'{known}", name=name, known=known)) from None
        return _coherent(value, stored, system)

    result = _walk(parsed(text), counted, lambda d: _plain_scale(d, unit, system))
    wanted = DIMENSIONS.get(unit)
    if result.dimension is None:
        value = result.value * factor(shown_unit(unit, system), unit) if unit else result.value
    else:
        if wanted is None or not _same(result.dimension, wanted):
            raise ExpressionError(
                say(
                    "it gives {named}, not a value in {unit}",
                    named=_named(result.dimension),
                    unit=shown_unit(unit, system) or say("plain numbers"),
                )
            )
        value = result.value / _coherent(1.0, unit, system).value if unit else result.value
    if not math.isfinite(value):
        raise ExpressionError(say("it gives no finite number"))
    return value


def _same(a: tuple[float, ...], b: tuple[float, ...]) -> bool:
    return all(abs(p - q) < 1e-9 for p, q in zip(a, b))


def _coherent(value: float, stored: str, system: str) -> Amount:
    dimension = DIMENSIONS.get(stored)
    if dimension is None:
        raise ExpressionError(say("a value in {stored} cannot be used here", stored=stored))
    if dimension == (0.0, 0.0):
        return Amount(value, None)
    base = {
        "m": 1.0,
        "mm": 1e-3,
        "kN": 1.0,
        "kNm": 1.0,
        "kPa": 1.0,
        "MPa": 1e3,
        "kN/m3": 1.0,
        "kPa/m": 1.0,
        SUBGRADE: 1.0,
    }[stored]
    names = COHERENT[system]
    scale = factor("m", names[LENGTH]) ** dimension[0] * factor("kN", names[FORCE]) ** dimension[1]
    return Amount(value * base * scale, dimension)


def _plain_scale(dimension: tuple[float, ...], unit: str, system: str) -> float:
    """What a plain number counts where it meets a dimension: the shown unit of the cell when that is its dimension."""
    if DIMENSIONS.get(unit) == dimension:
        return _coherent(factor(shown_unit(unit, system), unit), unit, system).value  # type: ignore[arg-type]
    return 1.0


def _named(dimension: tuple[float, ...]) -> str:
    for unit, known in DIMENSIONS.items():
        if unit and _same(known, dimension):
            return say("a value in {unit}", unit=unit)
    if _same(dimension, (2.0, 0.0)):
        return say("an area")
    return say("a value of another kind")


def _walk(node: ast.expr, name: Callable[[str], Amount], plain: Callable[[tuple[float, ...]], float]) -> Amount:
    def walk(part: ast.expr) -> Amount:
        return _walk(part, name, plain)

    match node:
        case ast.Constant(value=bool()):
            raise ExpressionError(say("only numbers can be used"))
        case ast.Constant(value=int() | float() as number):
            return Amount(float(number))
        case ast.Name(id=key):
            return name(key)
        case ast.Attribute(value=ast.Name(id=thing), attr=key):
            return name(f"{thing}.{key}")
        case ast.UnaryOp(op=ast.USub(), operand=part):
            inner = walk(part)
            return Amount(-inner.value, inner.dimension)
        case ast.UnaryOp(op=ast.UAdd(), operand=part):
            return walk(part)
        case ast.BinOp(left=left, op=op, right=right):
            return _operated(walk(left), op, walk(right), plain)
        case ast.Call(func=ast.Name(id=key), args=args, keywords=[]) if key in FUNCTIONS and args:
            return _called(key, [walk(part) for part in args], plain)
        case ast.Call():
            raise ExpressionError(say("only these functions are known: {functions}", functions=", ".join(FUNCTIONS)))
    raise ExpressionError(say("only numbers, names, + − × / ^ and brackets can be used"))


def _alike(
    amounts: list[Amount], plain: Callable[[tuple[float, ...]], float]
) -> tuple[list[float], tuple[float, ...] | None]:
    """Values on one dimension: plain numbers take that of the others."""
    dimension = next((a.dimension for a in amounts if a.dimension is not None), None)
    values = []
    for a in amounts:
        if a.dimension is None and dimension is not None:
            values.append(a.value * plain(dimension))
        elif a.dimension is not None and dimension is not None and not _same(a.dimension, dimension):
            raise ExpressionError(
                say(
                    "{named} and {named_2} cannot be added or compared",
                    named=_named(dimension),
                    named_2=_named(a.dimension),
                )
            )
        else:
            values.append(a.value)
    return values, dimension


def _operated(a: Amount, op: ast.operator, b: Amount, plain: Callable[[tuple[float, ...]], float]) -> Amount:
    try:
        if isinstance(op, (ast.Add, ast.Sub)):
            (x, y), dimension = _alike([a, b], plain)
            return Amount(x + y if isinstance(op, ast.Add) else x - y, dimension)
        if isinstance(op, (ast.Mult, ast.Div)):
            sign = 1.0 if isinstance(op, ast.Mult) else -1.0
            value = a.value * b.value if sign > 0 else a.value / b.value
            return Amount(value, _product(a.dimension, b.dimension, sign))
        if isinstance(op, ast.Pow):
            if b.dimension is not None:
                raise ExpressionError(say("an exponent must be a plain number"))
            if abs(b.value) > 20:
                raise ExpressionError(say("an exponent may be at most 20"))
            power = float(a.value**b.value)
            return Amount(power, None if a.dimension is None else tuple(d * b.value for d in a.dimension))
    except ExpressionError:
        raise
    except ZeroDivisionError:
        raise ExpressionError(say("it divides by zero")) from None
    except (OverflowError, TypeError, ValueError):
        raise ExpressionError(say("it gives no finite number")) from None
    raise ExpressionError(say("only + − × / ^ can be used"))


def _product(a: tuple[float, ...] | None, b: tuple[float, ...] | None, sign: float) -> tuple[float, ...] | None:
    if a is None and b is None:
        return None
    total = tuple(p + sign * q for p, q in zip(a or (0.0, 0.0), b or (0.0, 0.0)))
    return None if _same(total, (0.0, 0.0)) else total


def _called(key: str, amounts: list[Amount], plain: Callable[[tuple[float, ...]], float]) -> Amount:
    values, dimension = _alike(amounts, plain)
    if key not in ("min", "max", "round") and len(values) != 1:
        raise ExpressionError(say("{key} takes one value", key=key))
    try:
        if key == "round":
            if len(amounts) == 1:
                return Amount(float(round(values[0])), dimension)
            step = values[1]
            if step <= 0:
                raise ExpressionError(say("round(value, step) takes a step above zero"))
            return Amount(round(values[0] / step) * step, dimension)
        value = float(
            FUNCTIONS[key](*values)
            if len(values) > 1
            else FUNCTIONS[key](values[0])
            if key not in ("min", "max")
            else values[0]
        )
    except (ValueError, OverflowError):
        raise ExpressionError(say("{key} has no value here", key=key)) from None
    if key == "sqrt" and dimension is not None:
        dimension = tuple(d / 2 for d in dimension)
    elif key in ("sin", "cos", "tan") and dimension is not None:
        raise ExpressionError(say("{key} takes an angle in degrees", key=key))
    return Amount(value, dimension)


# ---------------------------------------------------------------- expressions in a project


@remembered(20_000)
def _own(row: Row) -> tuple[tuple[str, Expression], ...]:
    return tuple(row.expressions.items())


def rows_of(project: Any) -> Iterator[tuple[Path, Row]]:
    """Everything in a project that can keep expressions, with its path."""
    yield (), project
    for i, quantity in enumerate(project.quantities):
        yield ("quantities", quantity.name if quantity.name else i), quantity
    ground, actions = project.ground, project.actions
    yield ("ground",), ground
    yield ("actions",), actions
    for soil in ground.soils:
        yield ("ground", "soils", soil.name), soil
    for hole in ground.boreholes:
        path: Path = ("ground", "boreholes", hole.name)
        yield path, hole
        for part in ("strata", "tests", "oedometers"):
            for i, row in enumerate(getattr(hole, part)):
                yield (*path, part, i), row
    for part in ("cases", "load_points", "area_loads", "steps"):
        for row in getattr(actions, part):
            yield ("actions", part, row.name), row
    for row in actions.combinations:
        yield ("actions", "combinations", row.number), row
    for row in project.types:
        yield ("types", row.name), row
    for row in project.pads:
        yield ("pads", row.name), row


def expressions_of(project: Any) -> dict[Path, Expression]:
    """All expressions of a project, by the path of the value."""
    return {
        (*path, *path_of(key)): expression
        for path, row in rows_of(project)
        if row.expressions
        for key, expression in _own(row)
    }


def lookup(project: Any, path: Path) -> Callable[[str], tuple[Path, str]]:
    """Names as seen from a value: gives the path of the value that a name stands for, and its stored unit."""
    quantities = {q.name: q.unit for q in project.quantities}
    pads = {p.name: p for p in project.pads}

    def find(name: str) -> tuple[Path, str]:
        if "." in name:
            thing, _, key = name.partition(".")
            if thing in pads and key in PAD_NAMES:
                return ("pads", thing, PAD_NAMES[key]), "m"
            raise KeyError(name)
        if path[:1] == ("pads",) and name in PAD_NAMES:
            return ("pads", path[1], PAD_NAMES[name]), "m"
        if path[:1] == ("pads",) and name in ("cx", "cy") and path[1] in pads:
            return ("actions", "load_points", pads[str(path[1])].load_point, POINT_NAMES[name]), "m"
        if path[:2] == ("actions", "load_points") and name in POINT_NAMES:
            return ("actions", "load_points", path[2], POINT_NAMES[name]), "m"
        if name in quantities:
            return ("quantities", name, "value"), quantities[name]
        raise KeyError(name)

    return find


def name_in(project: Any, path: Path, target: Path) -> str:
    """What the value at ``target`` is called in an expression for the one at ``path``; '' where it has no name
    there."""
    find = lookup(project, path)
    own = target[:2] == path[:2]
    names = []
    if target[:1] == ("pads",) and len(target) == 3:
        keys = [key for key, field in PAD_NAMES.items() if field == target[2]]
        names += keys if own else [f"{target[1]}.{key}" for key in keys]
    if target[:2] == ("actions", "load_points") and len(target) == 4:
        names += [key for key, field in POINT_NAMES.items() if field == target[3]]
    if target[:1] == ("quantities",):
        names.append(str(target[1]))
    for name in names:
        try:
            parsed(name)
            if find(name)[0] == target:
                return name
        except (KeyError, ExpressionError):
            continue
    return ""


def evaluated(project: Any, value_at: Callable[[Any, Path], Any]) -> dict[Path, float]:
    """The values of all expressions, each after those it uses.

    Raises:
        ExpressionError: naming the value whose expression has no value, or those that use each other in a circle.
    """
    todo = expressions_of(project)
    done: dict[Path, float] = {}
    open_: list[Path] = []

    def solve(path: Path) -> float:
        if path in done:
            return done[path]
        if path in open_:
            circle = [*open_[open_.index(path) :], path]
            raise ExpressionError(
                say(
                    "the expressions use each other in a circle: {spoken}", spoken=" → ".join(spoken(p) for p in circle)
                )
            )
        open_.append(path)
        find = lookup(project, path)

        def amount(name: str) -> tuple[float, str]:
            target, unit = find(name)
            value = solve(target) if target in todo else value_at(project, target)
            if value is None:
                raise ExpressionError(say("'{name}' has no value yet", name=name))
            return float(value), unit

        try:
            done[path] = value_of(todo[path].text, unit_at(project, path), todo[path].units, amount)
        except UnitError as error:
            raise ExpressionError(str(error)) from None
        open_.pop()
        return done[path]

    for path in todo:
        try:
            solve(path)
        except ExpressionError as error:
            if str(error).startswith("the expressions use"):
                raise
            raise ExpressionError(
                f"{spoken(open_[-1] if open_ else path)} ={todo[path].text.removeprefix('=')}: {error}"
            ) from None
    return done


def spoken(path: Path) -> str:
    """A path as an engineer reads it."""
    return " ".join(
        field_word(step) for step in path if step not in ("ground", "actions", "value", "quantities", "pads")
    )


def unit_at(project: Any, path: Path) -> str:
    """The stored unit of the value at a path."""
    from korbent.core.model.settings import Settings

    here: Any = project
    for i, step in enumerate(path):
        last = i == len(path) - 1
        if isinstance(here, tuple):
            here = (
                next((r for r in here if step in (getattr(r, "name", None), getattr(r, "number", None))), None)
                or here[int(step)]
            )
        elif isinstance(here, Mapping):
            if path[i - 1] == "overrides":
                return unit_of(Settings, str(step))
            if last:
                return ""
            here = here[step]
        else:
            if last:
                if type(here).__name__ == "Quantity" and step == "value":
                    return str(here.unit)
                if type(here).__name__ == "GroundTest" and step == "value":
                    from korbent.core.model.ground import TEST_UNITS

                    return TEST_UNITS[here.kind]
                return unit_of(type(here), str(step))
            if here is None:
                return ""
            here = getattr(here, str(step))
    return ""


__all__ = [
    "ExpressionError",
    "evaluated",
    "expressions_of",
    "lookup",
    "name_in",
    "parsed",
    "spoken",
    "unit_at",
    "value_of",
]
