"""What has changed as rows of a table, as text, and as plain values."""

from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

from korbent.core.explain.changes import BaseChange, Changes
from korbent.files.sheet import Cell
from korbent.words import say

HEAD = (
    say("Base"),
    say("What"),
    say("Loads"),
    say("Ground"),
    say("Sizes"),
    say("Bars"),
    say("Worst before"),
    say("Worst after"),
    say("Crossed 1.0"),
)


def changes_rows(found: Changes) -> list[list[Cell]]:
    """A row for each base."""

    def joined(parts: Sequence[str]) -> str:
        return "; ".join(parts)

    return [
        [
            b.base,
            b.kind,
            joined(b.loads),
            joined(b.ground),
            joined(b.sizes),
            joined(b.bars),
            None if b.before is None else round(b.before, 3),
            None if b.after is None else round(b.after, 3),
            joined(b.crossed),
        ]
        for b in found.bases
    ]


def changes_grid(found: Changes) -> tuple[Sequence[str], list[list[Cell]]]:
    """Head and rows, what holds for the whole project below."""
    general: list[list[Cell]] = [["project", "changed", "", "", line, "", None, None, ""] for line in found.general]
    return HEAD, changes_rows(found) + general


def changes_text(found: Changes) -> str:
    """All of it as lines of text."""
    if not found.bases and not found.general:
        return say("Nothing has changed.")
    lines = []
    for b in found.bases:
        lines.append(f"{b.base}: {b.kind}{_ratios(b)}")
        for name in ("loads", "ground", "sizes", "bars"):
            lines += [f"    {name}: {said}" for said in getattr(b, name)]
        lines += [say("    crossed 1.0: {said}", said=said) for said in b.crossed]
    if found.general:
        lines.append("project:")
        lines += [f"    {line}" for line in found.general]
    return "\n".join(lines)


def _ratios(b: BaseChange) -> str:
    a, c = ("–" if v is None else f"{v:.2f}" for v in (b.before, b.after))
    return say(", worst {a} → {c}", a=a, c=c) if b.before is not None or b.after is not None else ""


def changes_values(found: Changes) -> dict[str, Any]:
    """Plain values for JSON."""
    return {
        "bases": [{k: list(v) if isinstance(v, tuple) else v for k, v in asdict(b).items()} for b in found.bases],
        "project": list(found.general),
    }
