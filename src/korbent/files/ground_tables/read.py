"""Tables of the ground, read: a proposal with all problems at their place."""

from collections.abc import Sequence
from pathlib import Path

from korbent.core.model import Project
from korbent.files.ground_import import Proposal
from korbent.files.ground_tables.assemble import Assembly
from korbent.files.ground_tables.columns import bare
from korbent.files.ground_tables.recognise import (
    Table,
    is_holes,
    is_lines,
    is_notes,
    is_oedometer,
    is_readings,
    is_site,
    is_soils,
    is_strata,
    is_tests,
    is_wide_tests,
)
from korbent.files.ground_tables.rows import Rows
from korbent.files.sheet import TableError, read_sheets
from korbent.words import say


def read_ground(paths: Sequence[Path], project: Project) -> Proposal:
    """What tables say about the ground; holes and soils that they do not give whole are completed from the project.

    Raises:
        TableError: when a file cannot be read or holds no table of the ground.
    """
    sheets = [(path.name, sheet) for path in paths for sheet in read_sheets(path)]
    reader = Rows(project)
    known = 0
    for file, sheet in sheets:
        place = f"{file} {sheet.name}".strip()
        columns = {name: i for i, h in enumerate(sheet.header) if (name := bare(h)[0])}
        table = Table(place, sheet, columns, project.showing, reader.problems)
        for fits, read in (
            (is_notes, reader.notes),
            (is_site, reader.site),
            (is_readings, reader.readings),
            (is_lines, reader.lines),
            (is_oedometer, reader.oedometers),
            (is_tests, reader.tests),
            (is_wide_tests, reader.wide_tests),
            (is_strata, reader.strata),
            (is_holes, reader.holes),
            (is_soils, reader.soils),
        ):
            if fits(table):
                read(table)
                known += 1
                break
        else:
            reader.remarks.append(
                say(
                    "{place}: no table of the ground; its columns are {h}",
                    place=place,
                    h=", ".join(h for h in sheet.header if h)[:80],
                )
            )
    if not known:
        raise TableError(
            say(
                "no table of the ground was recognised: soils need the columns name and weight; boreholes x, y and ground level; "
                "strata borehole, soil and thickness (or top and bottom); tests borehole, test, depth and value, or borehole, depth and a column for each test"
            )
        )
    return Assembly(reader).proposal()


def read_any(paths: Sequence[Path], project: Project) -> Proposal:
    """What a file of any kind says about the ground: AGS4 by its ending, else tables.

    Raises:
        TableError: when it cannot be read, or holds nothing of the ground.
    """
    from korbent.files.ags4 import Ags4Error, read_ags4

    if any(p.suffix.lower() == ".ags" for p in paths):
        if len(paths) > 1:
            raise TableError(say("choose one AGS4 file alone, or only tables"))
        try:
            return read_ags4(paths[0])
        except Ags4Error as error:
            raise TableError(str(error)) from None
    return read_ground(paths, project)
