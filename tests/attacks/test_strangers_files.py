"""What strangers and accidents do to files and command line: refused in words, never a traceback; the long attack is
behind --thorough."""

import json
import math
import os
import random
import subprocess
import sys
import time
import zipfile
from contextlib import suppress
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from korbent.app.background import Job
from korbent.app.canvas import DrawingView
from korbent.core.evaluate import evaluate
from korbent.core.model import LoadCase, Project, Soil, Title, edited
from korbent.core.model.frozen import cleaned
from korbent.demo import coombe, lindmere, redstem
from korbent.files.ags4 import Ags4Error, read_ags4
from korbent.files.faults import Guard, kept
from korbent.files.folders import state_folder
from korbent.files.ground_tables import read_ground
from korbent.files.project_file import ProjectFileError, dumps, load, loads, save
from korbent.files.sheet import TableError, guarded, read_sheets, unguarded, write_sheets

EXAMPLES = Path(__file__).parents[2] / "examples"
THOROUGH = bool(os.environ.get("KORBENT_THOROUGH"))
SEED = int(os.environ.get("KORBENT_SEED", "0"))
"""Other random attacks: ``KORBENT_SEED=7 ./test --thorough``."""
EXTREME = (
    0.0,
    -1.0,
    1e-12,
    1e12,
    1e300,
    -1e300,
    10**30,
    3.5e8,
    1e-300,
    True,
    "",
    "x" * 50_000,
    "\ud800",
    "\x00",
    None,
    [],
    {},
    10**399,
    [[[]]],
    "=1/0",
    "nan",
)


def numbers_in(value: Any, place: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """The places of all plain values of a file."""
    if isinstance(value, dict):
        return [p for k, v in value.items() for p in numbers_in(v, (*place, k))]
    if isinstance(value, list):
        return [p for i, v in enumerate(value) for p in numbers_in(v, (*place, i))]
    return [place]


def put(content: Any, place: tuple[Any, ...], value: Any) -> None:
    for step in place[:-1]:
        content = content[step]
    content[place[-1]] = value


def finite(project: Project) -> bool:
    return all(
        math.isfinite(v) for c in evaluate(project).all_checks for v in (c.ratio, c.demand, c.capacity) if v is not None
    )


@pytest.mark.long
def test_mutated_project_files_are_read_or_refused(tmp_path: Path) -> None:
    """One value of a file becomes an extreme one: refused with a place, or a project whose results are numbers."""
    rng = random.Random(5 + SEED)
    texts = [dumps(p()) for p in (lindmere, coombe, redstem)]
    calculated = 0
    for _ in range(3000 if THOROUGH else 120):
        content = json.loads(rng.choice(texts))
        place = rng.choice(numbers_in(content["project"]))
        put(content["project"], place, rng.choice(EXTREME))
        try:
            project = loads(json.dumps(content), Path("x.korbent"))
        except ProjectFileError:
            continue
        if calculated < (300 if THOROUGH else 12):
            calculated += 1
            assert finite(project), place
        save(project, tmp_path / "again.korbent")
        assert load(tmp_path / "again.korbent") == project


@pytest.mark.long
@pytest.mark.parametrize("ending", ["korbent", "ags", "xlsx", "csv"])
def test_files_with_damaged_bytes_never_end_in_a_traceback(ending: str, tmp_path: Path) -> None:
    rng = random.Random(7 + SEED)
    write_sheets(
        tmp_path / "t.xlsx",
        {"tests": (["borehole", "test", "depth", "value"], [["B", "cu", 1.0, 40.0]] * 20)},
    )
    (tmp_path / "t.csv").write_text("borehole,test,depth,value\n" + "B,cu,1,40\n" * 20)
    save(lindmere(), tmp_path / "t.korbent")
    (tmp_path / "t.ags").write_bytes((EXAMPLES / "lindmere.ags").read_bytes())
    good = (tmp_path / f"t.{ending}").read_bytes()
    path = tmp_path / f"bad.{ending}"
    for _ in range(1500 if THOROUGH else 60):
        data = bytearray(good)
        for _ in range(rng.choice((1, 3, 20))):
            data[rng.randrange(len(data))] = rng.randrange(256)
        if rng.random() < 0.3:
            data = data[: rng.randrange(len(data))]
        path.write_bytes(bytes(data))
        begun = time.process_time()
        try:
            if ending == "korbent":
                load(path)
            elif ending == "ags":
                read_ags4(path)
            else:
                read_ground([path], Project())
        except (ProjectFileError, Ags4Error, TableError):
            pass
        assert time.process_time() - begun < 5


def refused(text: str) -> str:
    with pytest.raises(ProjectFileError) as caught:
        loads(text, Path("x.korbent"))
    return str(caught.value)


def test_what_would_break_a_reader_is_refused_at_the_door() -> None:
    assert "is no value that can be meant" in refused('{"format": ' + "9" * 5000 + "}")
    assert "nested too deeply" in refused('{"a":' * 900 + "1" + "}" * 900)
    assert "nested too deeply" in refused("[" * 100_000)
    assert "not a Korbent project file" in refused("[]")
    whole = json.loads(dumps(lindmere()))
    whole["project"]["pads"][0]["expressions"] = {"no.such.place": {"text": "=1+1"}}
    assert refused(json.dumps(whole))
    whole["project"]["pads"][0]["expressions"] = {"loads.G.V.x": {"text": "=1"}, "": {"text": "=2"}}
    assert refused(json.dumps(whole))


def test_a_chain_of_expressions_is_refused_or_read(demo: Project) -> None:
    whole = json.loads(dumps(demo))
    names = [f"q{i}" for i in range(200)]
    whole["project"]["quantities"] = [
        {"name": n, "value": 1.0, "expressions": {"value": {"text": f"={names[i + 1]}+1"}} if i < 199 else {}}
        for i, n in enumerate(names)
    ]
    begun = time.process_time()
    with suppress(ProjectFileError):
        loads(json.dumps(whole), Path("x.korbent"))
    assert time.process_time() - begun < 5


# ---------------------------------------------------------------- what can be typed can be saved


@pytest.mark.parametrize("text", ["\ud83d", "a\x00b", "a\x1bb", "\x85", "￿"])
def test_texts_that_no_file_can_hold_are_refused_at_the_door(text: str) -> None:
    with pytest.raises(ValidationError, match=r"cannot be kept|unicode"):
        Title(client=text)
    with pytest.raises(ValidationError, match=r"cannot be kept|unicode"):
        LoadCase(name=f"G{text}")
    assert cleaned(f"a{text}").startswith("a")


def test_names_are_one_line(demo: Project) -> None:
    with pytest.raises(ValidationError, match="code 10"):
        Soil(name="Clay\nsoft", weight=18, weight_saturated=20)
    assert Soil(name="Clay", description="soft,\nbrown", weight=18, weight_saturated=20).description == "soft,\nbrown"
    with pytest.raises(ValidationError, match="at most"):
        Title(client="x" * 30_000)


@pytest.mark.long
@given(st.text(max_size=30))
def test_whatever_is_taken_is_saved_and_read_again(text: str) -> None:
    try:
        project = Project(title=Title(client=text))
    except ValidationError:
        return
    assert loads(dumps(project).encode().decode(), Path("x")) == project


@pytest.mark.parametrize(
    ("path", "value"),
    [
        (("settings", "concrete_strength"), 1e12),
        (("pads", "P1", "width"), 1e9),
        (("ground", "soils", "Silty sand", "modulus"), 1e20),
        (("actions", "load_points", "A1", "x"), 1e160),
        (("pads", "P1", "level"), -1e7),
        (("actions", "load_points", "A1", "loads", "G", "V"), 1e15),
    ],
)
def test_numbers_beyond_what_a_quantity_can_be_are_refused(demo: Project, path: tuple[str, ...], value: float) -> None:
    with pytest.raises(ValidationError):
        edited(demo, path, value)


# ---------------------------------------------------------------- tables


@given(
    st.text(
        alphabet=st.characters(codec="utf-8", exclude_categories=("Cc", "Cs", "Zl", "Zp", "Zs", "Cn")),
        max_size=12,
    )
)
def test_texts_that_spreadsheets_would_calculate_go_round(text: str) -> None:
    assert unguarded(guarded(text)) == text
    shown = guarded(text)
    if len(text) > 1 and text[0] in "=@":
        assert shown == f"'{text}"


def test_a_name_that_is_a_formula_is_text_in_the_file(tmp_path: Path, demo: Project) -> None:
    write_sheets(tmp_path / "t.csv", {"t": (["name", "value"], [["=HYPERLINK(1)", -2.5], ["@x", 1.0], ["'=y", 2.0]])})
    text = (tmp_path / "t.csv").read_text("utf-8-sig")
    assert '"\'=HYPERLINK(1)"' in text
    assert "-2.5" in text
    (sheet,) = read_sheets(tmp_path / "t.csv")
    assert [row[0] for row in sheet.rows] == ["=HYPERLINK(1)", "@x", "'=y"]


@pytest.mark.long
def test_a_workbook_that_swells_is_refused_before_it_is_read(tmp_path: Path) -> None:
    path = tmp_path / "t.xlsx"
    write_sheets(path, {"t": (["a", "b"], [[1.0, 2.0]])})
    with zipfile.ZipFile(path, "a", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("xl/worksheets/sheet2.xml", b" " * 250_000_000)
    assert path.stat().st_size < 1_000_000
    begun = time.process_time()
    with pytest.raises(TableError, match="swells to 250 MB"):
        read_sheets(path)
    assert time.process_time() - begun < 5


# ---------------------------------------------------------------- faults of the program itself


@pytest.mark.long
def test_a_fault_on_the_command_line_is_one_line(tmp_path: Path) -> None:
    code = "import korbent.cli as c\ndef broken(*a, **k): raise ZeroDivisionError('nothing there')\nc.evaluate = broken\nc.main(['check', 'a.korbent'])"
    save(lindmere(), tmp_path / "a.korbent")
    environment = os.environ | {
        "PYTHONPATH": os.pathsep.join(sys.path),
        "KORBENT_STATE": str(tmp_path / "state"),
    }
    found = subprocess.run(
        [sys.executable, "-c", code],
        cwd=tmp_path,
        env=environment,
        capture_output=True,
        text=True,
        check=False,
    )
    assert found.returncode == 2
    assert found.stderr.startswith("korbent: a fault of the program (ZeroDivisionError: nothing there); details in ")
    assert len(found.stderr.strip().splitlines()) == 1
    (details,) = (tmp_path / "state" / "faults").iterdir()
    assert "Traceback" in details.read_text()


def test_details_of_faults_are_bounded() -> None:
    for i in range(14):
        kept(f"fault {i}")
    assert len(list((state_folder() / "faults").glob("*.txt"))) == 10


def test_a_fault_in_a_drawing_shows_in_that_drawing(qtbot: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    def broken(_: float) -> Any:
        raise KeyError("no such pad")

    view = DrawingView(broken, "Broken")
    qtbot.addWidget(view)
    with pytest.raises(KeyError):
        _ = view.drawing
    monkeypatch.setattr(Guard, "on", True)
    assert "this drawing cannot be made" in view.drawing.shapes[0].text  # type: ignore[union-attr]


def test_a_fault_in_the_background_is_kept(qtbot: Any) -> None:
    before = len(list((state_folder() / "faults").glob("*.txt"))) if (state_folder() / "faults").exists() else 0
    Job("x", lambda: 1 / 0).run()
    assert len(list((state_folder() / "faults").glob("*.txt"))) in (before + 1, 10)
