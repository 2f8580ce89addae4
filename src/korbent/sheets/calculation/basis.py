"""Basis: standards, combinations, factor sets, settings that differ from their defaults."""

from korbent.core.actions.coverage import QUESTIONS, left_out, level_left_out
from korbent.core.evaluate import Results
from korbent.core.model import Project
from korbent.sheets.calculation.blocks import Block, Heading, Para, Table
from korbent.sheets.calculation.words import differing, own_settings


def basis(project: Project, results: Results) -> list[Block]:
    """The chapter."""
    s, actions = project.standards, project.actions
    found: list[Block] = [
        Heading("Basis", 1, "basis"),
        Table(
            ("Subject", "Standard"),
            (("Ground", f"{s.ground}, {s.approach}" if s.approach else s.ground), ("Concrete", s.concrete)),
            (30, 144),
        ),
    ]
    rows = differing(project)
    found.append(Heading("Settings that differ from their defaults", 2, "settings"))
    if rows:
        found.append(Table(("Setting", "Here", "Default", "Why"), tuple(rows), (62, 32, 32, 48)))
    else:
        found.append(Para("None."))
    for kind in project.types:
        if kind.overrides:
            found.append(Para(f"Type {kind.name}: {own_settings(project, kind.overrides)}", small=True))
    if actions.combinations:
        cases = [c.name for c in actions.cases]
        found.append(Heading("Combinations", 2, "combinations"))
        body = []
        for c in actions.combinations:
            weights = f"{c.weight_unfavourable:g}"
            if c.weight_unfavourable != c.weight_favourable:
                weights += f" / {c.weight_favourable:g}"
            body.append(
                (
                    str(c.number),
                    *(f"{c.factors[n]:g}" if n in c.factors else "" for n in cases),
                    ", ".join(c.serves) + (f" (only {', '.join(c.only)})" if c.only else ""),
                    c.factor_set or "",
                    c.water,
                    weights,
                )
            )
        each = min(14.0, 84.0 / max(len(cases), 1))
        found.append(
            Table(
                ("No.", *cases, "serves", "set", "water", "weights"),
                tuple(body),
                (9, *([each] * len(cases)), 41, 10, 14, 20),
            )
        )
        found.append(Para("Weights: factor of base and backfill, unfavourable / favourable.", small=True))
        for question, names in left_out(actions).items():
            found.append(Para(f"{', '.join(names)}: in no combination that serves {question}.", small=True))
        for question in QUESTIONS:
            if text := level_left_out(actions, project.ground.water, question):
                found.append(Para(f"{question}: {text}.", small=True))
    return found
