"""Record: acceptances with their reasons, checks not done and why, coefficients not checked, revisions, versions."""

import platform
from importlib.metadata import PackageNotFoundError, version

from korbent import __version__
from korbent.core.checks import State
from korbent.core.evaluate import Results
from korbent.core.explain.changes import Changes
from korbent.core.model import Project
from korbent.core.sources import MARK, MEANING, UNCHECKED
from korbent.sheets.calculation.blocks import Block, Heading, Para, Table
from korbent.sheets.calculation.words import ratio_words

STANDARDS = ("ACI 318-19", "ACI 318-14", "AS 3600", "EN 1992", "EN 1997", "ASCE 7")
PACKAGES = ("numpy", "scipy", "pydantic", "gmsh", "shapely")


def record(project: Project, results: Results, changed: Changes | None = None) -> list[Block]:
    """The chapter. ``changed``: against the last issue, where that is compared with."""
    found: list[Block] = [Heading("Record", 1, "record")]
    if changed is not None:
        found += _changed(changed)
    accepted = [c for c in results.all_checks if c.state is State.ACCEPTED]
    found.append(Heading(f"Accepted with a reason: {len(accepted)}", 2, "accepted"))
    if accepted:
        rows = tuple((c.foundation, c.check.title, ratio_words(c), c.message) for c in accepted)
        found.append(Table(("Base", "Check", "Ratio", "Reason"), rows, (16, 46, 14, 98), (2,)))
    undone: dict[tuple[str, str], list[str]] = {}
    for c in results.all_checks:
        if c.state is State.CANNOT:
            undone.setdefault((c.check.title, c.message), []).append(c.foundation)
    found.append(Heading(f"Checks that cannot be done: {sum(map(len, undone.values()))}", 2, "not-done"))
    if undone:
        why_not = tuple((title, ", ".join(names), why) for (title, why), names in undone.items())
        found.append(Table(("Check", "Bases", "Why"), why_not, (44, 46, 84)))
    idle: dict[tuple[str, str], list[str]] = {}
    for c in results.all_checks:
        if c.state is State.NOT_APPLICABLE:
            idle.setdefault((c.check.title, c.message), []).append(c.foundation)
    if idle:
        count = len(results.pads)
        left_out = tuple(
            (title, "all" if len(names) == count else ", ".join(names), why) for (title, why), names in idle.items()
        )
        found += [
            Heading("Checks that do not apply", 2, "idle"),
            Table(("Check", "Bases", "Why"), left_out, (44, 46, 84), tight=True),
        ]
    if results.undesigned:
        found.append(Para(f"Not designed: {', '.join(results.undesigned)}."))
    memory = tuple((name.rstrip("( "), what) for name, what in UNCHECKED if _may_be_used(project, name))
    found += [
        Heading(f"Formulas and coefficients {MEANING}", 2, "unchecked"),
        Para(
            f"They carry {MARK} wherever they are used; methods that this project does not choose are listed too.",
            small=True,
        ),
        Table(("Reference", "What of it"), memory, (60, 114), tight=True),
    ]
    if project.revisions:
        rows = tuple((r.name, r.date, r.by, r.reason) for r in project.revisions)
        found += [
            Heading("Revisions", 2, "revisions"),
            Table(("Revision", "Date", "By", "Reason"), rows, (20, 26, 30, 98)),
        ]
    found += [
        Heading("Versions", 2, "versions"),
        Para(f"Korbent {__version__}; Python {platform.python_version()}; {', '.join(_versions())}.", small=True),
    ]
    return found


def _versions() -> list[str]:
    found = []
    for name in PACKAGES:
        try:
            found.append(f"{name} {version(name)}")
        except PackageNotFoundError:
            continue
    return found


def _changed(changed: Changes) -> list[Block]:
    """What has changed, a row a base."""
    rows: list[tuple[str, ...]] = []
    for b in changed.bases:
        ratios = " → ".join("–" if v is None else f"{v:.2f}" for v in (b.before, b.after))
        rows.append(
            (
                b.base,
                b.kind,
                "; ".join((*b.loads, *b.ground)),
                "; ".join((*b.sizes, *b.bars)),
                ratios,
                "; ".join(b.crossed),
            )
        )
    rows += [("project", "", line, "", "", "") for line in changed.general]
    found: list[Block] = [Heading("Changed since the issue that is compared with", 2, "changed")]
    if not rows:
        return [*found, Para("Nothing has changed.")]
    return [
        *found,
        Table(
            ("Base", "What", "Loads and ground", "Sizes and bars", "Worst ratio", "Crossed 1.0"),
            tuple(rows),
            (14, 17, 48, 43, 22, 30),
        ),
    ]


def _may_be_used(project: Project, reference: str) -> bool:
    """Whether a reference is no standard, or one of those that the project is checked by."""
    own = next((s for s in STANDARDS if reference.startswith(s)), None)
    chosen = (project.standards.ground, project.standards.concrete)
    return own is None or any(c.startswith(own[:7]) for c in chosen)
