"""Which small faults in the code no test would see.

    tools/mutate.py settlement/laws --count 40 --seed 1     of the folder or file in src/korbent/core

Faults are made one at a time in a copy of the tree: a comparison that lets the limit in or out, plus for minus, times
for divided by, the greater for the less, a number 7 % off, a sign lost. Each is met first by the tests that name the
module, then by the reference cases and the invariants, and if asked for by the longer tests that name it. Some of what
none of them sees is no fault at all: a number of rounds, a tolerance, what is only said.
"""

import argparse
import ast
import concurrent.futures
import os
import random
import re
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]
CORE = ROOT / "src" / "korbent" / "core"
COPIED = ("src", "tests", "docs", "examples", "benchmarks", "pyproject.toml", "README.md", "CHANGELOG.md", "tools")
AFTER = ("tests/test_verification.py", "tests/invariants")
LONGEST = 240
"""s: a test that hangs has seen the fault."""
SWAPPED: dict[type, type] = {
    ast.Lt: ast.LtE,
    ast.LtE: ast.Lt,
    ast.Gt: ast.GtE,
    ast.GtE: ast.Gt,
    ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.Add: ast.Sub,
    ast.Sub: ast.Add,
    ast.Mult: ast.Div,
    ast.Div: ast.Mult,
    ast.And: ast.Or,
    ast.Or: ast.And,
}
NAMES = {"maximum": "minimum", "minimum": "maximum", "max": "min", "min": "max", "any": "all", "all": "any"}
OFF = 1.07


@dataclass(frozen=True)
class Fault:
    """A place in a file, and what it is made."""

    path: Path
    line: int
    number: int
    """Of the fault among those of the file."""


class _Making(ast.NodeTransformer):
    """Makes one of the faults that are possible, or counts them."""

    def __init__(self, wanted: int = -1) -> None:
        self.wanted, self.lines = wanted, []  # type: int, list[int]

    def _takes(self, node: ast.AST, line: int) -> bool:
        self.lines.append(line)
        return len(self.lines) - 1 == self.wanted

    def visit_Expr(self, node: ast.Expr) -> ast.AST:
        return node if isinstance(node.value, ast.Constant) else self.generic_visit(node)  # no words

    def visit_JoinedStr(self, node: ast.JoinedStr) -> ast.AST:
        return node

    def visit_AnnAssign(self, node: ast.AnnAssign) -> ast.AST:
        if node.value is not None:
            node.value = self.visit(node.value)
        return node

    def visit_arguments(self, node: ast.arguments) -> ast.AST:
        return node

    def visit_Subscript(self, node: ast.Subscript) -> ast.AST:
        node.value = self.visit(node.value)  # places in arrays are seen at once
        return node

    def visit_Compare(self, node: ast.Compare) -> ast.AST:
        if type(node.ops[0]) in SWAPPED and self._takes(node, node.lineno):
            node.ops[0] = SWAPPED[type(node.ops[0])]()
        return self.generic_visit(node)

    def visit_BinOp(self, node: ast.BinOp) -> ast.AST:
        if type(node.op) in SWAPPED and self._takes(node, node.lineno):
            node.op = SWAPPED[type(node.op)]()
        return self.generic_visit(node)

    def visit_BoolOp(self, node: ast.BoolOp) -> ast.AST:
        if self._takes(node, node.lineno):
            node.op = SWAPPED[type(node.op)]()
        return self.generic_visit(node)

    def visit_UnaryOp(self, node: ast.UnaryOp) -> ast.AST:
        negative = isinstance(node.op, ast.USub) and not isinstance(node.operand, ast.Constant)
        if negative and self._takes(node, node.lineno):
            return node.operand
        return self.generic_visit(node)

    def visit_Attribute(self, node: ast.Attribute) -> ast.AST:
        if node.attr in NAMES and self._takes(node, node.lineno):
            node.attr = NAMES[node.attr]
        return self.generic_visit(node)

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        value = node.value
        if isinstance(value, float) and value != 0 and self._takes(node, node.lineno):
            return ast.copy_location(ast.Constant(value * OFF), node)
        return node


def faults_in(path: Path) -> list[Fault]:
    """All that could be made in a file."""
    making = _Making()
    making.visit(ast.parse(path.read_text(encoding="utf-8")))
    return [Fault(path, line, k) for k, line in enumerate(making.lines)]


def with_fault(fault: Fault) -> tuple[str, str]:
    """(the text of the file with it, what its line is then)."""
    tree = ast.parse(fault.path.read_text(encoding="utf-8"))
    made = _Making(fault.number)
    tree = ast.fix_missing_locations(made.visit(tree))
    before = ast.unparse(ast.parse(fault.path.read_text(encoding="utf-8"))).splitlines()
    text = ast.unparse(tree)
    changed = [new for old, new in zip(before, text.splitlines()) if old != new]
    return text, (changed or ["?"])[0].strip()


def tests_of(path: Path) -> list[str]:
    """Test files that name a module, or the folder that it lies in where that is not a family of checks."""
    parts = path.relative_to(ROOT / "src").with_suffix("").parts
    name = ".".join(parts if len(parts) < 5 else parts[:4])
    found = [
        str(test.relative_to(ROOT))
        for test in sorted((ROOT / "tests").rglob("test_*.py"))
        if re.search(rf"\b{re.escape(name)}\b", test.read_text(encoding="utf-8"))
    ]
    return [test for test in found if "/app/" not in test]


def seen(copy: Path, fault: Fault, longer: bool) -> str:
    """Which tests see a fault; '' where none does."""
    place = copy / fault.path.relative_to(ROOT)
    sound = place.read_text(encoding="utf-8")
    text, _ = with_fault(fault)
    place.write_text(text, encoding="utf-8")
    run = dict(
        os.environ, PYTHONPATH=f"{copy / 'src'}:{copy}", PYTHONDONTWRITEBYTECODE="1", QT_QPA_PLATFORM="offscreen"
    )
    try:
        own = tests_of(fault.path)
        for tests, whole in ((own, ""), *(([one], "") for one in AFTER), (own, "1")):
            if not tests or (whole and not longer):
                continue
            command = [sys.executable, "-m", "pytest", "-x", "-q", "-n", "0", *tests]
            env = {**run, "KORBENT_WHOLE": whole} if whole else run
            try:
                done = subprocess.run(command, cwd=copy, env=env, capture_output=True, text=True, timeout=LONGEST)
            except subprocess.TimeoutExpired:
                return "time"
            if done.returncode not in (0, 5):
                return tests[0]
    finally:
        place.write_text(sound, encoding="utf-8")
    return ""


def looked_at(copy: Path, faults: list[Fault], longer: bool) -> Iterator[tuple[Fault, str]]:
    """Each fault with what sees it, said at once."""
    for fault in faults:
        by = seen(copy, fault, longer)
        said = f"{fault.path.relative_to(ROOT)}:{fault.line}: {with_fault(fault)[1]}"
        print(f"{by or 'NOT SEEN'}: {said}", flush=True)
        yield fault, by


def main() -> None:
    """Prints what sees each of them, and the share that is seen."""
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0] if __doc__ else "")
    parser.add_argument("where", help="a folder or file in src/korbent/core")
    parser.add_argument("--count", type=int, default=40)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--workers", type=int, default=2)
    parser.add_argument("--longer", action="store_true", help="also by the longer tests that name the module")
    given = parser.parse_args()
    where = CORE / given.where
    files = [where] if where.suffix == ".py" else sorted(where.rglob("*.py"))
    possible = [fault for file in files for fault in faults_in(file)]
    chosen = random.Random(given.seed).sample(possible, min(given.count, len(possible)))
    lost = []
    with tempfile.TemporaryDirectory() as folder:
        copies = []
        for k in range(given.workers):
            copy = Path(folder) / str(k)
            copy.mkdir()
            for name in COPIED:
                source = ROOT / name
                if source.is_dir():
                    shutil.copytree(source, copy / name, ignore=shutil.ignore_patterns("__pycache__"))
                elif source.exists():
                    shutil.copy(source, copy / name)
            copies.append(copy)
        shares = [chosen[k :: given.workers] for k in range(given.workers)]
        with concurrent.futures.ThreadPoolExecutor(given.workers) as pool:
            for found in pool.map(lambda job: list(looked_at(*job, given.longer)), zip(copies, shares)):
                lost += [fault for fault, by in found if not by]
    print(f"{given.where}: {len(chosen) - len(lost)} of {len(chosen)} seen, of {len(possible)} possible")


if __name__ == "__main__":
    main()
