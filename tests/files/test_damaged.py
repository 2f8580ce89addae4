"""Ten thousand damaged files of every kind: a clear refusal, or something that fits a project."""

import random
from collections.abc import Callable
from pathlib import Path

import pytest

from korbent.core.model import Project
from korbent.files.ags4 import Ags4Error, read_ags4
from korbent.files.ground_import import misfit
from korbent.files.ground_tables import read_ground, write_ground
from korbent.files.loads.compare import differences, taken_over
from korbent.files.loads.read import read_loads
from korbent.files.loads.recognise import recognised
from korbent.files.project_file import ProjectFileError, dumps, load
from korbent.files.sheet import TableError, read_sheet
from korbent.verification.pad import one_pad
from tests.conftest import THOROUGH

EXAMPLES = Path(__file__).parents[2] / "examples"


def mutated(data: bytes, random_: random.Random) -> bytes:
    """A file damaged in one to six places."""
    data = bytearray(data)
    for _ in range(random_.randint(1, 6)):
        at = random_.randrange(len(data) or 1)
        kind = random_.randrange(6)
        if kind == 0:
            data[at : at + random_.randint(1, 40)] = b""
        elif kind == 1:
            data[at:at] = bytes(random_.randrange(256) for _ in range(random_.randint(1, 8)))
        elif kind == 2:
            data[at : at + 1] = random_.choice([b'"', b",", b"\n", b"-", b"9", b"\x00", b"\xff", b";", b"{", b"e99"])
        elif kind == 3:
            other = random_.randrange(len(data) or 1)
            data[at:at] = data[other : other + random_.randint(1, 200)]
        elif kind == 4:
            lines = bytes(data).split(b"\n")
            random_.shuffle(lines)
            data = bytearray(b"\n".join(lines)) if random_.random() < 0.2 else data
        else:
            data = data[: random_.randrange(len(data) or 1) + 1]
    return bytes(data)


def ags(path: Path) -> None:
    found = read_ags4(path)
    misfit(Project(), found)
    assert all(p.message and p.place for p in found.problems)


def tables(path: Path) -> None:
    found = read_ground([path], Project())
    misfit(Project(), found)
    assert all(p.message and p.place for p in found.problems)


def loads(path: Path) -> None:
    sheet = read_sheet(path)
    table = read_loads(sheet, recognised(sheet))
    if not differences(Project(), table).problems and table.loads:
        taken_over(Project(), table)


def project(path: Path) -> None:
    load(path)


def source(name: str, folder: Path) -> bytes:
    if name == "ground.xlsx":
        from korbent.demo import lindmere

        write_ground(lindmere(), folder / name)
        return (folder / name).read_bytes()
    if name == "one.korbent":
        return dumps(one_pad()).encode()
    return (EXAMPLES / name).read_bytes()


@pytest.mark.long
@pytest.mark.parametrize(
    ("name", "read", "count"),
    [
        ("lindmere.ags", ags, 3000),
        ("lindmere-soils.csv", tables, 2800),
        ("lindmere-loads.csv", loads, 2000),
        ("one.korbent", project, 2000),
        ("ground.xlsx", tables, 200),
    ],
)
def test_damaged_files_never_break_the_program(
    tmp_path: Path, name: str, read: Callable[[Path], None], count: int
) -> None:
    whole = source(name, tmp_path)
    random_ = random.Random(name)
    path = tmp_path / name
    refused = 0
    for _ in range(count if THOROUGH else count // 5):
        path.write_bytes(mutated(whole, random_))
        try:
            read(path)
        except (Ags4Error, TableError, ProjectFileError):
            refused += 1
    assert refused <= count
