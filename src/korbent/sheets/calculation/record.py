"""Record: acceptances with their reasons, checks not done and why, coefficients not checked, revisions, versions."""

import platform
from importlib.metadata import PackageNotFoundError, version

from korbent import __version__
from korbent.core.checks import State
from korbent.core.evaluate import Results
from korbent.core.explain.changes import Changes
from korbent.core.model import Project
from korbent.core.model.labels import label
from korbent.core.sources import MARK, MEANING, UNCHECKED
from korbent.sheets.calculation.blocks import Block, Heading, Para, Table
from korbent.sheets.calculation.words import ratio_words
from korbent.words import say, worded

STANDARDS = ("ACI 318-19", "ACI 318-14", "AS 3600", "EN 1992", "EN 1997", "ASCE 7")
PACKAGES = ("numpy", "scipy", "pydantic", "gmsh", "shapely")


def record(project: Project, results: Results, changed: Changes | None = None) -> list[Block]:
    """The chapter. ``changed``: against the last issue, where that is compared with."""
    found: list[Block] = [Heading(say("Record"), 1, "record")]
    if changed is not None:
        found += _changed(changed)
    accepted = [c for c in results.all_checks if c.state is State.ACCEPTED]
    found.append(Heading(say("Accepted with a reason: {accepted}", accepted=len(accepted)), 2, "accepted"))
    if accepted:
        rows = tuple((c.foundation, c.check.title, ratio_words(c), c.message) for c in accepted)
        found.append(Table((say("Base"), say("Check"), say("Ratio"), say("Reason")), rows, (16, 46, 14, 98), (2,)))
    undone: dict[tuple[str, str], list[str]] = {}
    for c in results.all_checks:
        if c.state is State.CANNOT:
            undone.setdefault((c.check.title, c.message), []).append(c.foundation)
    found.append(Heading(say("Checks that cannot be done: {sum}", sum=sum(map(len, undone.values()))), 2, "not-done"))
    if undone:
        why_not = tuple((title, ", ".join(names), why) for (title, why), names in undone.items())
        found.append(Table((say("Check"), say("Bases"), say("Why")), why_not, (44, 46, 84)))
    idle: dict[tuple[str, str], list[str]] = {}
    for c in results.all_checks:
        if c.state is State.NOT_APPLICABLE:
            idle.setdefault((c.check.title, c.message), []).append(c.foundation)
    if idle:
        count = len(results.pads)
        left_out = tuple(
            (title, label("all") if len(names) == count else ", ".join(names), why)
            for (title, why), names in idle.items()
        )
        found += [
            Heading(say("Checks that do not apply"), 2, "idle"),
            Table((say("Check"), say("Bases"), say("Why")), left_out, (44, 46, 84), tight=True),
        ]
    if results.undesigned:
        found.append(Para(say("Not designed: {undesigned}.", undesigned=", ".join(results.undesigned))))
    memory = tuple((worded(name.rstrip("( ")), what) for name, what in UNCHECKED if _may_be_used(project, name))
    found += [
        Heading(say("Formulas and coefficients {meaning}", meaning=MEANING), 2, "unchecked"),
        Para(
            say(
                "They carry {mark} wherever they are used; methods that this project does not choose are listed too.",
                mark=MARK,
            ),
            small=True,
        ),
        Table((say("Reference"), say("What of it")), memory, (60, 114), tight=True),
    ]
    if project.revisions:
        rows = tuple((r.name, r.date, r.by, r.reason) for r in project.revisions)
        found += [
            Heading(say("Revisions"), 2, "revisions"),
            Table((say("Revision"), say("Date"), say("By"), say("Reason")), rows, (20, 26, 30, 98)),
        ]
    found += [
        Heading(say("Versions"), 2, "versions"),
        Para(
            say(
                "Korbent {version}; Python {python_version}; {versions}.",
                version=__version__,
                python_version=platform.python_version(),
                versions=", ".join(_versions()),
            ),
            small=True,
        ),
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
    found: list[Block] = [Heading(say("Changed since the issue that is compared with"), 2, "changed")]
    if not rows:
        return [*found, Para(say("Nothing has changed."))]
    return [
        *found,
        Table(
            (
                say("Base"),
                say("What"),
                say("Loads and ground"),
                say("Sizes and bars"),
                say("Worst ratio"),
                say("Crossed 1.0"),
            ),
            tuple(rows),
            (14, 17, 48, 43, 22, 30),
        ),
    ]


def _may_be_used(project: Project, reference: str) -> bool:
    """Whether a reference is no standard, or one of those that the project is checked by."""
    own = next((s for s in STANDARDS if reference.startswith(s)), None)
    chosen = (project.standards.ground, project.standards.concrete)
    return own is None or any(c.startswith(own[:7]) for c in chosen)
