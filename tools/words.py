"""Texts to translate, and catalogues of what was translated.

    python tools/words.py template FILE.pot         all texts, for an editor of translations
    python tools/words.py catalogue FILE.po [FILE.mo]   checked and compiled; without a name where the program finds it

A translation keeps the values of its text: ``{width}`` in the one is ``{width}`` in the other.
"""

import ast
import re
import sys
import tomllib
from collections.abc import Iterator
from pathlib import Path
from string import Formatter

from babel.messages.catalog import Catalog
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po, write_po

from korbent.core.model.labels import fields

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src" / "korbent"
SAID = {"say": (0,), "Afloat": (0,), "say_count": (1, 2)}
"""The functions that say a text, and which of their arguments it is."""


def said() -> Iterator[tuple[str, int, tuple[str, ...]]]:
    """(file, line, text or both texts of a number) of all that the program says."""
    for path in sorted(SOURCE.rglob("*.py")):
        file = path.relative_to(SOURCE).as_posix()
        # the reference cases are for those who check the program, not for those who use it
        for node in () if file.startswith("verification/") else ast.walk(ast.parse(path.read_text("utf-8"))):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in SAID:
                codes = [node.args[k] for k in SAID[node.func.id]]
                texts = tuple(str(c.value) for c in codes if isinstance(c, ast.Constant))
                if len(texts) == len(codes) and all(texts):
                    yield file, node.lineno, texts
    for path in sorted((SOURCE / "core" / "actions" / "rules").glob("*.toml")):
        data = tomllib.loads(path.read_text("utf-8"))
        about = [entry["about"] for entry in data["values"].values()]
        parts = [part.get("name", "") for part in data.get("partials", ())]
        for text in (*about, *(row["clause"] for row in data["rows"]), *parts):
            if text:
                yield path.relative_to(SOURCE).as_posix(), 1, (text,)
    for name in sorted(fields()):
        yield "core/model", 1, (name.replace("_", " "),)


def template() -> Catalog:
    """All texts there are."""
    found = Catalog(project="Korbent", charset="utf-8", fuzzy=False)
    for file, line, texts in said():
        found.add(texts if len(texts) > 1 else texts[0], locations=[(file, line)])
    return found


def values_of(text: str) -> set[str]:
    """The names of the values in a text."""
    return {name for _, name, _, _ in Formatter().parse(text) if name}


def problems(catalogue: Catalog) -> list[str]:
    """Translations that name other values than their texts."""
    found = []
    for message in catalogue:
        texts = message.id if isinstance(message.id, tuple) else (message.id,)
        strings = message.string if isinstance(message.string, tuple) else (message.string,)
        asked = set().union(*map(values_of, texts)) if message.id else set()
        for text in strings:
            try:
                other = values_of(text) - asked if message.id else set()
            except ValueError as error:
                found.append(f"{texts[0]!r}: {error}")
                continue
            if other:
                found.append(f"{texts[0]!r} has no value {', '.join(sorted(other))}")
    return found


def main() -> None:
    what, path, *rest = sys.argv[1:]
    if what == "template":
        with Path(path).open("wb") as file:
            write_po(file, template(), width=110)
    elif what == "catalogue":
        with Path(path).open("rb") as file:
            catalogue = read_po(file)
        wrong = problems(catalogue)
        if wrong:
            raise SystemExit("\n".join(wrong))
        name = re.sub(r"\.po$", ".mo", Path(path).name)
        target = Path(rest[0]) if rest else SOURCE / "words" / "catalogues" / name
        target.parent.mkdir(exist_ok=True)
        with target.open("wb") as file:
            write_mo(file, catalogue)
        print(f"{target}: {sum(bool(m.string) for m in catalogue)} texts")
    else:
        raise SystemExit(__doc__)


if __name__ == "__main__":
    main()
