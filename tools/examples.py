"""Writes the files in examples/ from the Lindmere demo: its ground as AGS4, its soils and its loads as tables, its
drawings."""

import csv
from pathlib import Path

from korbent.core.model import Load
from korbent.core.model.labels import label
from korbent.core.model.sheets import SheetChoice
from korbent.demo import lindmere
from korbent.files.ags4 import write_ags4
from korbent.files.ground_tables import ground_tables
from korbent.files.sheet import write_sheets
from korbent.sheets.catalogue import SITE, set_named
from korbent.sheets.drawings import drawings
from korbent.sheets.to_pdf import write_sheets_pdf
from korbent.sheets.to_svg import write_sheet_svg

folder = Path(__file__).parents[1] / "examples"


def main() -> None:
    """Writes all of them."""
    project = lindmere()
    write_ags4(project, folder / "lindmere.ags")
    write_sheets(folder / "lindmere-soils.csv", {"soils": ground_tables(project)["soils"]})
    natures = {c.name: c.nature for c in project.actions.cases}
    with (folder / "lindmere-loads.csv").open("w", encoding="utf-8", newline="") as file:
        writer = csv.writer(file)
        writer.writerow(
            [
                "Column",
                "Kind",
                "x [m]",
                "y [m]",
                "Size x [m]",
                "Size y [m]",
                "Level [m]",
                "Case",
                "Nature",
                *(f"{q} [{'kN' if q[0] in 'VH' else 'kNm'}]" for q in Load.model_fields),
            ]
        )
        for p in project.actions.load_points:
            for case, load in p.loads.items():
                writer.writerow(
                    [
                        p.name,
                        label(p.kind),
                        p.x,
                        p.y,
                        p.size_x,
                        p.size_y,
                        p.level,
                        case,
                        natures[case],
                        *load.model_dump().values(),
                    ]
                )
    own = set_named(project, SITE)
    keys = ("plan", "setting-out", "details", "schedule", "section", "whole")
    made = drawings(project, own, [SheetChoice(key=key) for key in keys])
    write_sheets_pdf(made, folder / "lindmere-drawings.pdf")
    for key in ("plan", "details"):
        write_sheet_svg(next(s for s in made if s.key == key), folder / f"lindmere-{key}.svg")


if __name__ == "__main__":
    main()
