"""Basis: standards, combinations, factor sets, settings that differ from their defaults."""

from korbent.core.actions.coverage import QUESTIONS, left_out, level_left_out
from korbent.core.evaluate import Results
from korbent.core.model import Project
from korbent.core.model.labels import label, labels
from korbent.sheets.calculation.blocks import Block, Heading, Para, Table
from korbent.sheets.calculation.words import differing, own_settings
from korbent.words import say


def basis(project: Project, results: Results) -> list[Block]:
    """The chapter."""
    s, actions = project.standards, project.actions
    found: list[Block] = [
        Heading(say("Basis"), 1, "basis"),
        Table(
            (say("Subject"), say("Standard")),
            (
                (say("Ground"), f"{s.ground}, {label(s.approach)}" if s.approach else s.ground),
                (say("Concrete"), s.concrete),
            ),
            (30, 144),
        ),
    ]
    rows = differing(project)
    found.append(Heading(say("Settings that differ from their defaults"), 2, "settings"))
    if rows:
        found.append(Table((say("Setting"), say("Here"), say("Default"), say("Why")), tuple(rows), (62, 32, 32, 48)))
    else:
        found.append(Para(say("None.")))
    for kind in project.types:
        if kind.overrides:
            found.append(
                Para(
                    say(
                        "Type {kind}: {own_settings}",
                        kind=kind.name,
                        own_settings=own_settings(project, kind.overrides),
                    ),
                    small=True,
                )
            )
    if actions.combinations:
        cases = [c.name for c in actions.cases]
        found.append(Heading(say("Combinations"), 2, "combinations"))
        body = []
        for c in actions.combinations:
            weights = f"{c.weight_unfavourable:g}"
            if c.weight_unfavourable != c.weight_favourable:
                weights += f" / {c.weight_favourable:g}"
            body.append(
                (
                    str(c.number),
                    *(f"{c.factors[n]:g}" if n in c.factors else "" for n in cases),
                    labels(c.serves) + (say(" (only {only})", only=", ".join(c.only)) if c.only else ""),
                    c.factor_set or "",
                    label(c.water),
                    weights,
                )
            )
        each = min(14.0, 84.0 / max(len(cases), 1))
        found.append(
            Table(
                (say("No."), *cases, say("serves"), say("set"), label("water"), say("weights")),
                tuple(body),
                (9, *([each] * len(cases)), 41, 10, 14, 20),
            )
        )
        found.append(Para(say("Weights: factor of base and backfill, unfavourable / favourable."), small=True))
        for question, names in left_out(actions).items():
            found.append(
                Para(
                    say(
                        "{names}: in no combination that serves {question}.",
                        names=", ".join(names),
                        question=label(question),
                    ),
                    small=True,
                )
            )
        for question in QUESTIONS:
            if text := level_left_out(actions, project.ground.water, question):
                found.append(Para(f"{label(question)}: {text}.", small=True))
    return found
