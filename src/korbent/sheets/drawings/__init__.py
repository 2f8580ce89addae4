"""The drawings of a set as sheets: views chosen, scaled to fit, laid out on as many sheets of paper as they need."""

from collections.abc import Callable, Sequence
from dataclasses import replace

from korbent.core.model import Project
from korbent.core.model.sheets import SheetChoice, SheetSet
from korbent.sheets.composition import Block, Sheet, frame
from korbent.sheets.drawings.detailed import detail_sheets
from korbent.sheets.drawings.page import Changed
from korbent.sheets.drawings.plan import plan_sheets
from korbent.sheets.drawings.single import ground_sheets, log_sheets, whole_sheets
from korbent.sheets.drawings.tables import schedule_sheets, setting_out_sheets

__all__ = ["MAKERS", "Changed", "drawings"]


def drawings(
    project: Project, chosen: SheetSet, choices: Sequence[SheetChoice], changed: Changed | None = None
) -> tuple[Sheet, ...]:
    """The drawings that some choices of a set ask for, numbered through."""
    found: list[tuple[Sheet, Block]] = []
    for choice in choices:
        maker = MAKERS.get(choice.key)
        if maker is not None:
            found += maker(project, chosen, choice, changed or Changed())
    return tuple(
        replace(
            sheet,
            number=k,
            of=len(found),
            frame=frame(sheet.width, sheet.height, replace(block, number=k, of=len(found))),
        )
        for k, (sheet, block) in enumerate(found, 1)
    )


Maker = Callable[[Project, SheetSet, SheetChoice, Changed], list[tuple[Sheet, Block]]]

MAKERS: dict[str, Maker] = {
    "plan": plan_sheets,
    "setting-out": setting_out_sheets,
    "details": detail_sheets,
    "schedule": schedule_sheets,
    "section": ground_sheets,
    "logs": log_sheets,
    "whole": whole_sheets,
}
"""By key, what makes the sheets of a drawing."""
