"""Actions: loads by column and case, with their sums."""

from korbent.core.evaluate import Results
from korbent.core.model import Project
from korbent.core.model.labels import label
from korbent.core.plan.totals import building, case_totals
from korbent.core.units import show, show_length, shown_unit
from korbent.sheets.calculation.blocks import Block, Cell, Heading, Para, Table
from korbent.words import say

FORCES = ("V", "Hx", "Hy", "Mx", "My")


def actions(project: Project, results: Results) -> list[Block]:
    """The chapter."""
    u = project.showing
    kn, knm, m = (shown_unit(unit, u) for unit in ("kN", "kNm", "m"))
    found: list[Block] = [Heading(say("Actions"), 1, "actions")]
    cases = tuple((c.name, label(c.nature), label(c.category)) for c in project.actions.cases)
    if cases:
        found.append(Table((say("Case"), say("Nature"), say("Category")), cases, (30, 60, 84)))
    if project.actions.load_points:
        rows = []
        for p in project.actions.load_points:
            loads = [(c, load) for c, load in p.loads.items() if any(getattr(load, q) for q in FORCES)]
            for k, (case, load) in enumerate(loads):
                forces = [show(getattr(load, q), "kN", u) for q in ("V", "Hx", "Hy")]
                moments = [show(getattr(load, q), "kNm", u) for q in ("Mx", "My")]
                name = p.name if k == 0 else ""
                rows.append((name, case, *forces, *moments, show_length(p.level, u) if k == 0 else ""))
        found += [
            Heading(say("Loads"), 2, "loads"),
            Para(
                say("V downwards; of walls as they are given, whole or per metre; cases without a load are left out."),
                small=True,
            ),
            Table(
                (
                    say("Column"),
                    say("Case"),
                    f"V, {kn}",
                    f"Hx, {kn}",
                    f"Hy, {kn}",
                    f"Mx, {knm}",
                    f"My, {knm}",
                    say("Level, {m}", m=m),
                ),
                tuple(rows),
                (24, 20, 22, 21, 21, 22, 22, 22),
                (2, 3, 4, 5, 6, 7),
                tight=True,
            ),
        ]
        sums = []
        for total in case_totals(project):
            at = (
                "–"
                if total.centroid is None
                else f"{show_length(total.centroid[0], u)}, {show_length(total.centroid[1], u)}"
            )
            off = any(total.off(k) for k in range(3))
            stated = ", ".join(show(v, "kN", u) if v is not None else "–" for v in total.stated)
            sums.append(
                (
                    total.case,
                    show(total.V, "kN", u),
                    show(total.Hx, "kN", u),
                    show(total.Hy, "kN", u),
                    at,
                    Cell(stated if any(v is not None for v in total.stated) else "–", beyond=off),
                )
            )
        found += [
            Heading(say("Sums"), 2, "sums"),
            Table(
                (
                    say("Case"),
                    f"V, {kn}",
                    f"Hx, {kn}",
                    f"Hy, {kn}",
                    say("middle of V, {m}", m=m),
                    say("stated V, Hx, Hy, {kn}", kn=kn),
                ),
                tuple(sums),
                (24, 26, 24, 24, 34, 42),
                (1, 2, 3),
            ),
        ]
        whole = building(project)
        if whole is not None and whole.share is not None and whole.presumed is not None:
            found.append(
                Para(
                    say(
                        "Whole building: {V} {kn} in combination {combination}; at {presumed} {unit} its bases need "
                        "{share:.0f} % of the area within its columns.",
                        V=show(whole.V, "kN", u),
                        kn=kn,
                        combination=whole.combination,
                        presumed=show(whole.presumed, "kPa", u),
                        unit=shown_unit("kPa", u),
                        share=100 * whole.share,
                    )
                )
            )
    areas = tuple(
        (a.name, label(a.shape), show(a.pressure, "kPa", u) if a.pressure else "–") for a in project.actions.area_loads
    )
    if areas:
        found += [
            Heading(say("Loads on areas"), 2, "areas"),
            Table(
                (say("Name"), say("Shape"), say("Pressure, {unit}", unit=shown_unit("kPa", u))),
                areas,
                (70, 60, 44),
                (2,),
            ),
        ]
    return found
