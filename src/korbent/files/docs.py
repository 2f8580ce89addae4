"""The guide and the theory, as they lie beside the program: sections and paragraphs of them."""

import re
from functools import lru_cache
from pathlib import Path

import korbent

_INSTALLED = Path(korbent.__file__).parent / "docs"
FOLDER = _INSTALLED if _INSTALLED.is_dir() else Path(korbent.__file__).parents[2] / "docs"


@lru_cache(maxsize=8)
def text_of(name: str) -> str:
    """The text of ``guide`` or ``theory``; '' where it is not there."""
    try:
        return (FOLDER / f"{name}.md").read_text(encoding="utf-8")
    except OSError:
        return ""


def section(name: str, heading: str) -> str:
    """What stands under a heading, in Markdown, headings of lower rank and what is below them included; '' where there
    is none."""
    lines = text_of(name).splitlines()
    for start, line in enumerate(lines):
        rank = len(line) - len(line.lstrip("#"))
        if rank and line.strip("# ").lower() == heading.lower():
            end = next(
                (i for i in range(start + 1, len(lines)) if re.match(rf"#{{1,{rank}}} ", lines[i])),
                len(lines),
            )
            return "\n".join(lines[start + 1 : end]).strip()
    return ""


def headings(name: str) -> tuple[str, ...]:
    """The headings of the second rank."""
    return tuple(line[3:].strip() for line in text_of(name).splitlines() if line.startswith("## "))


@lru_cache(maxsize=2)
def paragraphs(name: str) -> tuple[tuple[str, str], ...]:
    """(heading, paragraph): what blank lines, list marks and headings divide, each on one line."""
    found: list[tuple[str, str]] = []
    heading, open_one = "", False
    for line in text_of(name).splitlines():
        if line.startswith("#"):
            heading, open_one = line.strip("# "), False
        elif not line.strip() or line.startswith("|"):
            open_one = False
        elif open_one and not re.match(r"\s*(- |\d+\. )", line):
            found[-1] = (heading, f"{found[-1][1]} {line.strip()}")
        else:
            found.append((heading, re.sub(r"^\s*(- |\d+\. )", "", line).strip()))
            open_one = True
    return tuple(found)


def beginning(name: str, phrase: str) -> tuple[str, str]:
    """The heading and the paragraph that begins so; ('', '') where none does."""
    return next((pair for pair in paragraphs(name) if pair[1].startswith(phrase)), ("", ""))
