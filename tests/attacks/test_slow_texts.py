"""Texts that a pattern could stumble over again and again, everywhere where a stranger's text is looked at."""

import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

import pytest

from korbent.core.concrete.bar_text import parsed
from korbent.core.model import Project, edited
from korbent.core.model.edit import expressed
from korbent.core.model.expressions import ExpressionError
from korbent.core.quantity_text import parse
from korbent.core.units import UnitError, understood
from korbent.demo import lindmere
from korbent.files.ags4 import Ags4Error, read_ags4
from korbent.files.ags4.tests import blows
from korbent.files.ground_tables import read_ground
from korbent.files.loads.read import read_loads
from korbent.files.loads.recognise import recognised
from korbent.files.sheet import Sheet, TableError, read_sheet

LONG = 60_000
TEXTS = (
    " " * LONG,
    "a" * LONG,
    "1" * LONG,
    "1," * (LONG // 2),
    "1 " * (LONG // 2),
    "(" * LONG,
    "[kN" * 20_000,
    "kN*" * 20_000,
    "-" * LONG,
    "\t " * (LONG // 2),
    "N=" * 30_000,
    "/" * LONG,
    "1/" * 30_000,
    "'" * LONG,
    "V [" + " " * LONG,
    "V (" + "x " * 30_000,
    "F_" * 30_000,
    "ø16/" * 15_000,
    "m2" * 30_000,
    "1e" * 30_000,
    "." * LONG,
    "+ " * 30_000,
    "3'-6 " * 12_000,
    "\u00a0" * LONG,
    "²" * LONG,
    "kip" * 20_000,
    "1'" * 30_000,
    "x" * 200 + " " * LONG + "x",
    "=" * LONG,
    "−" * LONG,
)
GUARD = 5.0
"""Seconds of processor time: a guard against hangs, far beyond what is needed."""


def in_a_header(text: str, folder: Path) -> None:
    sheet = Sheet(
        ("Column", "Case", text, f"V [{text}]", f"{text} kN"),
        (("A", "G", text, "1", "2"), ("B", "G", "1", text, "2")),
        2,
    )
    read_loads(sheet, recognised(sheet))


def in_a_table(text: str, folder: Path) -> None:
    cell = text.replace('"', "")
    (folder / "t.csv").write_text(
        f'borehole,test,depth,"value {cell}"\n"{cell}",cu,1,"{cell}"\nB,"{cell}","{cell}",2\n'
    )
    read_sheet(folder / "t.csv")
    read_ground([folder / "t.csv"], Project())


def in_ags(text: str, folder: Path) -> None:
    cell = text.replace('"', "")
    (folder / "t.ags").write_text(
        '"GROUP","LOCA"\r\n"HEADING","LOCA_ID","LOCA_GL","LOCA_LOCX","LOCA_LOCY"\r\n'
        f'"UNIT","","{cell}","m","m"\r\n"TYPE","ID","2DP","2DP","2DP"\r\n"DATA","B1","{cell}","0","0"\r\n\r\n'
        '"GROUP","ISPT"\r\n"HEADING","LOCA_ID","ISPT_TOP","ISPT_NVAL","ISPT_REP"\r\n"UNIT","","m","",""\r\n"TYPE","ID","2DP","0DP","X"\r\n'
        f'"DATA","B1","1.5","{cell}","{cell}"\r\n{cell}\r\n"{cell}","x"\r\n'
    )
    read_ags4(folder / "t.ags")


def as_a_unit(text: str, folder: Path) -> None:
    understood(text)


def as_a_number(text: str, folder: Path) -> None:
    parse(text, "kN", "metric")


def as_bars(text: str, folder: Path) -> None:
    parsed(text)


def as_a_blow_count(text: str, folder: Path) -> None:
    blows(text)


def as_an_expression(text: str, folder: Path) -> None:
    expressed(lindmere(), ("pads", "P7", "width"), "=" + text)


def as_a_name(text: str, folder: Path) -> None:
    edited(lindmere(), ("pads", "P7", "name"), text)


DOORS = (
    in_a_header,
    in_a_table,
    in_ags,
    as_a_unit,
    as_a_number,
    as_bars,
    as_a_blow_count,
    as_an_expression,
    as_a_name,
)


@pytest.mark.long
@pytest.mark.parametrize("door", DOORS)
def test_no_text_takes_long(door: Callable[[str, Path], None], tmp_path: Path) -> None:
    for text in TEXTS:
        begun = time.process_time()
        with suppress(UnitError, ValueError, TableError, Ags4Error, ExpressionError):
            door(text, tmp_path)
        assert time.process_time() - begun < GUARD, text[:20]


@pytest.mark.parametrize(
    "text",
    [
        "=1#2",
        "=1 # 2",
        "=1\n+1",
        "=1;2",
        "=(1",
        "=1 if 2 else 3",
        "=[1]",
        "={1}",
        "=lambda: 1",
        "=1 and 2",
        "='1'",
        "=1=1",
        "=@1",
        "=1\\\n+1",
    ],
)
def test_what_is_no_expression_is_refused(text: str) -> None:
    with pytest.raises((ExpressionError, ValueError)):
        expressed(lindmere(), ("pads", "P7", "width"), text)
