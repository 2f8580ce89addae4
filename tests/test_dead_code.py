"""What stands in the program is called from the program: what only tests call, or nobody, is dead."""

import ast
import re
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

SOURCE = Path(__file__).parents[1] / "src" / "korbent"
CALLED_BY_LIBRARIES = {
    "createHandle": "Qt, of a splitter",
    "paintSection": "Qt, of a header",
    "afterFlowable": "the library of pages",
    "model_post_init": "the library of models",
}
"""Overridden, so that no line of the program names them."""
LISTED_FOR_TESTS = {"DERIVED": "references that need no print", "TOKENS": "colours that each theme has"}
"""Read by tests, which hold the program against them."""


def named_in(source: str) -> Iterator[str]:
    """Functions, methods, classes and constants of modules; what a decorator takes is called through it."""
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)):
            if not node.decorator_list and not node.name.startswith(("__", "visit_")):
                yield node.name
        elif isinstance(node, ast.Assign) and node.col_offset == 0:
            yield from (t.id for t in node.targets if isinstance(t, ast.Name) and not t.id.startswith("__"))


def dead_in(sources: list[str]) -> set[str]:
    """Names that stand nowhere but where they are made."""
    words = Counter(word for source in sources for word in re.findall(r"\b\w+\b", source))
    return {name for source in sources for name in named_in(source) if words[name] == 1}


def test_nothing_is_dead() -> None:
    found = dead_in([path.read_text("utf-8") for path in SOURCE.rglob("*.py")])
    assert found == {*CALLED_BY_LIBRARIES, *LISTED_FOR_TESTS}


def test_what_is_dead_is_seen() -> None:
    assert dead_in(["def used(): pass\ndef dead(): used()\nLIST = 1"]) == {"dead", "LIST"}
    assert (
        dead_in(["class A:\n    def told(self): pass\n    @property\n    def seen(self): pass", "A().told()"]) == set()
    )
