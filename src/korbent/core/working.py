"""The working of a calculation: named steps, recorded while it is computed.

A calculation tells its recorder each intermediate value: what is given, and each step by its formula. The silent
recorder does nothing. The recording one keeps the arrays as they are; the situation that governs is picked when a step
is shown. A formula is a Python expression over symbols recorded before it, so that a test can evaluate it again."""

import ast
import re
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Any, ClassVar, Protocol, Self

import numpy as np
from numpy.typing import ArrayLike, NDArray

from korbent.core.sources import marked
from korbent.words import english, say

Array = NDArray[Any]

FUNCTIONS: dict[str, Callable[..., Any]] = {
    "sqrt": np.sqrt,
    "exp": np.exp,
    "tan": np.tan,
    "sin": np.sin,
    "cos": np.cos,
    "atan": np.arctan,
    "abs": np.abs,
    "min": lambda *a: _fold(np.minimum, a),
    "max": lambda *a: _fold(np.maximum, a),
    "where": np.where,
    "total": lambda a: np.sum(a, axis=-1),
    "rad": np.deg2rad,
}
CONSTANTS = {"pi": np.pi, "gamma_w": 9.81}


def _fold(operation: Callable[[Any, Any], Any], values: tuple[Any, ...]) -> Any:
    result = values[0]
    for value in values[1:]:
        result = operation(result, value)
    return result


class Recorder(Protocol):
    """What a calculation tells about itself."""

    def given(
        self, symbol: str, value: ArrayLike, unit: str = "", *, reference: str = "", note: str = "", needs: str = ""
    ) -> None:
        """An input, or a value solved from others: ``needs`` names those, blank-separated."""

    def step(
        self,
        symbol: str,
        formula: str,
        value: ArrayLike,
        unit: str = "",
        *,
        reference: str = "",
        note: str = "",
        needs: str = "",
    ) -> None:
        """One step: ``symbol`` = ``formula`` = ``value``; what else it rests on is named by ``needs``."""

    def listed(self, symbol: str, value: ArrayLike, labels: tuple[str, ...], unit: str = "", note: str = "") -> None:
        """An input that is a list (along one more, last axis), such as the factors of all load cases."""

    def scope(self, name: str) -> Self:
        """A recorder whose symbols stand apart, such as those of one direction; it sees the outer ones."""


class Silent:
    """Records nothing, at next to no cost."""

    def given(self, *_: Any, **__: Any) -> None:
        pass

    def step(self, *_: Any, **__: Any) -> None:
        pass

    def listed(self, *_: Any, **__: Any) -> None:
        pass

    def scope(self, name: str) -> "Silent":
        return self


SILENT = Silent()


@dataclass(frozen=True, slots=True)
class Step:
    """One recorded value. ``inputs`` maps each name in the formula to the index of the step that made it."""

    symbol: str
    formula: str
    value: Any
    unit: str
    reference: str
    note: str
    scope: str
    inputs: dict[str, int]
    labels: tuple[str, ...] = ()


@dataclass
class Recording:
    """Keeps every step with its arrays (situations along the last axis)."""

    steps: list[Step] = field(default_factory=list)
    path: str = ""
    known: dict[str, int] = field(default_factory=dict)
    scopes: dict[str, dict[str, int]] = field(default_factory=dict)

    def given(
        self, symbol: str, value: ArrayLike, unit: str = "", *, reference: str = "", note: str = "", needs: str = ""
    ) -> None:
        self.step(symbol, "", value, unit, reference=reference, note=note, needs=needs)

    def step(
        self,
        symbol: str,
        formula: str,
        value: ArrayLike,
        unit: str = "",
        *,
        reference: str = "",
        note: str = "",
        needs: str = "",
    ) -> None:
        inputs = {name: self.known[name] for name in (*names_in(formula), *needs.split())}
        self._keep(Step(symbol, formula, np.asarray(value), unit, reference, note, self.path, inputs))

    def listed(self, symbol: str, value: ArrayLike, labels: tuple[str, ...], unit: str = "", note: str = "") -> None:
        self._keep(Step(symbol, "", np.asarray(value), unit, "", note, self.path, {}, labels))

    def scope(self, name: str) -> "Recording":
        path = f"{self.path} {english(name)}".strip()
        return Recording(self.steps, path, self.known | self.scopes.get(path, {}), self.scopes)

    def _keep(self, step: Step) -> None:
        self.known[step.symbol] = len(self.steps)
        self.scopes.setdefault(self.path, {})[step.symbol] = len(self.steps)
        self.steps.append(step)

    def evaluated(self, index: int) -> Any:
        """The formula of a step, computed again from the recorded values of its inputs."""
        step = self.steps[index]
        values = {name: self.steps[i].value for name, i in step.inputs.items()}
        with np.errstate(all="ignore"):
            return eval(  # a formula of our own source, not input
                compile(step.formula, step.symbol, "eval"),
                {"__builtins__": {}},
                FUNCTIONS | CONSTANTS | values,
            )

    def leading_to(self, index: int) -> list[int]:
        """The steps on which step ``index`` rests, itself included, in the order of calculation."""
        needed: set[int] = set()
        open_ones = [index]
        while open_ones:
            i = open_ones.pop()
            if i not in needed:
                needed.add(i)
                open_ones.extend(self.steps[i].inputs.values())
        return sorted(needed)

    def find(self, symbol: str, scope: str = "") -> int:
        """The index of the last step of that symbol in that scope; KeyError when there is none."""
        for i in range(len(self.steps) - 1, -1, -1):
            if self.steps[i].symbol == symbol and self.steps[i].scope == scope:
                return i
        raise KeyError(symbol)

    def nearest(self, symbol: str, scope: str, default: int) -> int:
        """The index of a symbol in a scope or the closest one around it; ``default`` when there is none."""
        found = [i for i, s in enumerate(self.steps) if s.symbol == symbol and scope.startswith(s.scope)]
        return max(found, key=lambda i: len(self.steps[i].scope), default=default)


@lru_cache(maxsize=8192)
def names_in(formula: str) -> tuple[str, ...]:
    """The symbols that a formula uses."""
    if not formula:
        return ()
    nodes = ast.walk(ast.parse(formula, mode="eval"))
    seen = {node.id for node in nodes if isinstance(node, ast.Name)}
    return tuple(sorted(seen - FUNCTIONS.keys() - CONSTANTS.keys()))


@dataclass(frozen=True, slots=True)
class Line:
    """One step as shown: for one candidate and one situation."""

    index: int
    symbol: str
    formula: str
    numbers: str
    value: str
    unit: str
    reference: str
    note: str
    scope: str
    inputs: tuple[tuple[str, int], ...]

    def text(self) -> str:
        """The line as plain text."""
        parts = [self.symbol]
        parts += [part for part in (self.formula, self.numbers) if part]
        parts.append(f"{self.value} {self.unit}".strip())
        tail = "  ".join(part for part in (self.note, f"[{marked(self.reference)}]" if self.reference else "") if part)
        return " = ".join(parts) + (f"    {tail}" if tail else "")


def lines(recording: Recording, index: int, candidate: int, situation: int) -> list[Line]:
    """The working of one step for one candidate and one situation, inputs first."""
    return [_line(recording, i, candidate, situation) for i in recording.leading_to(index)]


def _line(recording: Recording, index: int, candidate: int, situation: int) -> Line:
    step = recording.steps[index]
    numbers = ""
    if step.formula:
        values, lists = {}, {}
        for name, i in step.inputs.items():
            source = recording.steps[i]
            if source.labels:
                lists[name] = [number(float(v)) for v in picked(source.value, candidate, situation, lists=True)]
            else:
                values[name] = shown_value(source, candidate, situation)
        values |= {name: number(value) for name, value in CONSTANTS.items() if name != "pi"}
        numbers = pretty(step.formula, values, lists)
    formula = pretty(step.formula, {}) if step.formula else ""
    return Line(
        index,
        pretty_symbol(step.symbol),
        formula,
        numbers if numbers != formula else "",
        shown_value(step, candidate, situation),
        step.unit,
        step.reference,
        step.note,
        step.scope,
        tuple((pretty_symbol(name), i) for name, i in sorted(step.inputs.items())),
    )


def picked(value: Any, candidate: int, situation: int, lists: bool = False) -> Any:
    """The entry of an array of shape (..., candidates, situations) that belongs to one of each."""
    array = np.asarray(value)
    tail = 1 if lists else 0
    if array.ndim > tail:
        axis = array.ndim - 1 - tail
        array = np.take(array, situation % array.shape[axis], axis=axis)
    if array.ndim > tail:
        axis = array.ndim - 1 - tail
        array = np.take(array, min(candidate, array.shape[axis] - 1), axis=axis)
    return array


def shown_value(step: Step, candidate: int, situation: int) -> str:
    """The value of a step as text."""
    value = picked(step.value, candidate, situation, lists=bool(step.labels))
    if step.labels:
        return ", ".join(f"{label} {number(v)}" for label, v in zip(step.labels, value) if v != 0.0) or "0"
    return number(float(value))


def number(value: float) -> str:
    """A number with about four significant digits, never in powers of ten where that can be avoided."""
    if value == 0:
        return "0"
    size = abs(value)
    if size >= 1e10 or size < 1e-5:
        return f"{value:.3e}".replace("-", "−")
    decimals = max(0, 3 - int(np.floor(np.log10(size))))
    text = f"{value:.{min(decimals, 8)}f}"
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    return text.replace("-", "−")


GREEK = {
    "alpha": "α",
    "beta": "β",
    "gamma": "γ",
    "delta": "δ",
    "eta": "η",
    "theta": "θ",
    "kappa": "κ",
    "lambda": "λ",
    "mu": "μ",
    "nu": "ν",
    "rho": "ρ",
    "sigma": "σ",
    "tau": "τ",
    "phi": "φ",
    "psi": "ψ",
    "omega": "ω",
    "Sigma": "Σ",
    "Delta": "Δ",
    "oe": "ø",
    "zeta": "ζ",
}


def pretty_symbol(name: str) -> str:
    """A symbol as printed: Greek letters, primes, the index after a low line."""
    head, *index = (_letter(part) for part in name.split("_"))
    return head + ("_" + ",".join(index) if index else "")


def _letter(part: str) -> str:
    bare = part.removesuffix("prime")
    return GREEK.get(bare, bare) + ("′" if bare != part else "")


def pretty(formula: str, values: dict[str, str], lists: dict[str, list[str]] | None = None) -> str:
    """A formula as printed, with numbers put in for the names found in ``values``; sums over lists written out."""
    return _Printer(values, lists or {}).visit(ast.parse(formula, mode="eval").body)


class _Printer(ast.NodeVisitor):
    """Writes an expression the way an engineer does."""

    symbols: ClassVar = {ast.Add: " + ", ast.Sub: " − ", ast.Mult: "·", ast.Div: " / "}
    order: ClassVar = {ast.Add: 1, ast.Sub: 1, ast.Mult: 2, ast.Div: 2, ast.Pow: 4}
    compared: ClassVar = {ast.Gt: ">", ast.Lt: "<", ast.GtE: "≥", ast.LtE: "≤"}

    def __init__(self, values: dict[str, str], lists: dict[str, list[str]]) -> None:
        self.values = values
        self.lists = lists

    def visit_Name(self, node: ast.Name) -> str:
        return self.values.get(node.id) or {"pi": "π"}.get(node.id) or pretty_symbol(node.id)

    def visit_Constant(self, node: ast.Constant) -> str:
        return number(float(node.value)) if isinstance(node.value, (int, float)) else repr(node.value)

    def visit_UnaryOp(self, node: ast.UnaryOp) -> str:
        return "−" + self._in(node.operand, 3)

    def visit_BinOp(self, node: ast.BinOp) -> str:
        rank = self.order[type(node.op)]
        if isinstance(node.op, ast.Pow):
            power = self.visit(node.right)
            raised = {"2": "²", "3": "³"}.get(power)
            base = self._in(node.left, 5)
            return base + (raised or "^" + (power if re.fullmatch(r"[\w.′]+", power) else f"({power})"))
        strict = isinstance(node.op, (ast.Sub, ast.Div))
        return (
            self._in(node.left, rank) + self.symbols[type(node.op)] + self._in(node.right, rank + 1 if strict else rank)
        )

    def visit_Call(self, node: ast.Call) -> str:
        name = node.func.id if isinstance(node.func, ast.Name) else "?"
        last = node.args[-1]
        if name == "max" and isinstance(last, ast.Constant) and isinstance(last.value, float) and 0 < last.value < 1e-6:
            return self.visit(node.args[0])  # only guards a division
        if name == "total" and self.lists:
            return self._written_out(node.args[0])
        arguments = [self.visit(a) for a in node.args]
        if name == "where":
            return say(
                "[{so} if {where}, else {otherwise}]", so=arguments[1], where=arguments[0], otherwise=arguments[2]
            )
        if name == "abs":
            return f"|{arguments[0]}|"
        if name == "rad":
            return f"{arguments[0]}°"
        if name == "exp":
            return f"e^({arguments[0]})"
        printed = {"sqrt": "√", "total": "Σ"}.get(name, name)
        return f"{printed}({'; '.join(arguments)})"

    def _written_out(self, term: ast.expr) -> str:
        names = [n.id for n in ast.walk(term) if isinstance(n, ast.Name) and n.id in self.lists]
        terms = []
        for numbers in zip(*(self.lists[name] for name in names)):
            if "0" not in numbers:
                terms.append(_Printer(self.values | dict(zip(names, numbers)), {}).visit(term))
        return f"({' + '.join(terms) or '0'})"

    def visit_Compare(self, node: ast.Compare) -> str:
        return f"{self.visit(node.left)} {self.compared[type(node.ops[0])]} {self.visit(node.comparators[0])}"

    def _in(self, node: ast.expr, rank: int) -> str:
        text = self.visit(node)
        own = self.order.get(type(node.op), 9) if isinstance(node, ast.BinOp) else 9
        negative = text.startswith("−") and rank > 1
        return f"({text})" if own < rank or negative else text

    def visit(self, node: ast.AST) -> str:
        return str(super().visit(node))
