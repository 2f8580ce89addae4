"""The project file: round trip, errors with places, atomic saving."""

import json
import os
import random
import signal
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

import pytest

from korbent.core.model import Project, edited
from korbent.demo import lindmere
from korbent.files.project_file import ProjectFileError, dumps, load, loads, save

HERE = Path("memory.korbent")


def broken(demo: Project, change: Any) -> str:
    data = json.loads(dumps(demo))
    change(data)
    with pytest.raises(ProjectFileError) as caught:
        loads(json.dumps(data), HERE)
    return str(caught.value)


def test_round_trip(demo: Project, tmp_path: Path) -> None:
    path = tmp_path / "a.korbent"
    save(demo, path)
    assert load(path) == demo
    save(load(path), path)
    assert path.read_text() == dumps(demo)


def test_the_file_says_what_it_is(demo: Project) -> None:
    data = json.loads(dumps(demo))
    assert (data["format"], data["version"]) == ("korbent", 3)


def test_all_errors_are_listed_with_their_places(demo: Project) -> None:
    def change(data: Any) -> None:
        project = data["project"]
        project["pads"][6]["thickness"] = -0.5
        project["ground"]["soils"][1]["weight"] = 0
        del project["ground"]["boreholes"][0]["strata"][2]["thickness"]
        project["actions"]["combinations"][2]["factors"]["ghost"] = 1.0
        project["pads"][2]["load_point"] = "Z9"
        project["settings"]["colour"] = "blue"

    text = broken(demo, change)
    for line in (
        "pads[P7].thickness: input should be greater than 0, got -0.5",
        "ground.soils[Silty sand].weight",
        "ground.boreholes[BH1].strata[3].thickness: is missing",
        "actions.combinations[3].factors: there is no load case 'ghost'",
        "pads[P3].load_point: there is no column or wall 'Z9'",
        "settings.colour: is not known here",
    ):
        assert line in text
    assert "6 errors; nothing was loaded" in text


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda d: d.update(version=99), "use a newer Korbent"),
        (lambda d: d.update(version="1"), "not a file version"),
        (lambda d: d.update(format="other"), "not a Korbent project file"),
        (lambda d: d.pop("project"), "no project in it"),
        (lambda d: d.update(project=[1, 2]), "no project in it"),
        (lambda d: d["project"].update(pads="none"), "pads: input should be a valid tuple"),
        (lambda d: d["project"]["pads"].append(3), "pads"),
        (lambda d: d["project"].update(ground=None), "ground"),
        (lambda d: d["project"]["actions"].update(cases=[{"name": ""}]), "cases[].name"),
        (lambda d: d["project"]["pads"][0].pop("load_point"), "pads[P1].load_point: is missing"),
        (lambda d: d["project"]["pads"][0].update(width=1e999), "pads[P1].width"),
        (
            lambda d: d["project"]["ground"]["boreholes"][0].update(strata=[{"soil": "Clay", "thickness": -1}]),
            "strata",
        ),
    ],
)
def test_wrong_files(demo: Project, change: Any, says: str) -> None:
    assert says in broken(demo, change)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "line 1, column 1: not valid JSON"),
        ("[]", "not a Korbent project file"),
        ('{"format": "korbent",', "not valid JSON"),
        ('{"a": 1, "a": 2}', "stands twice"),
        ("[" * 100_000, "nested too deeply"),
    ],
)
def test_texts_that_are_no_project(text: str, says: str) -> None:
    with pytest.raises(ProjectFileError, match=says):
        loads(text, HERE)


def test_files_that_cannot_be_read(tmp_path: Path) -> None:
    with pytest.raises(ProjectFileError, match="no such file"):
        load(tmp_path / "none.korbent")
    with pytest.raises(ProjectFileError, match="folder"):
        load(tmp_path)
    (tmp_path / "b").write_bytes(b"\xff\xfe\x00bad")
    with pytest.raises(ProjectFileError, match="not a text file"):
        load(tmp_path / "b")


def test_a_failed_save_keeps_the_old_file(demo: Project, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "a.korbent"
    save(demo, path)
    before = path.read_bytes()

    def refuse(*_: Any) -> None:
        raise OSError("disk full")

    monkeypatch.setattr(os, "replace", refuse)
    with pytest.raises(OSError, match="disk full"):
        save(edited(demo, ("title", "revision"), "D"), path)
    assert path.read_bytes() == before
    assert os.listdir(tmp_path) == ["a.korbent"]


WRITER = """
import sys
from pathlib import Path
from korbent.demo import lindmere
from korbent.core.model import edited
from korbent.files.project_file import save
project, path = lindmere(), Path(sys.argv[1])
print("ready", flush=True)
i = 0
while True:
    i += 1
    save(edited(project, ("title", "revision"), f"R{i}" * 50), path)
"""


@pytest.mark.long
def test_killed_while_saving_the_file_is_whole(tmp_path: Path) -> None:
    path, whole = tmp_path / "a.korbent", lindmere()
    save(whole, path)
    chance = random.Random(5)
    for _ in range(4):
        process = subprocess.Popen(
            [sys.executable, "-c", WRITER, str(path)],
            stdout=subprocess.PIPE,
            env=dict(os.environ, PYTHONPATH=os.pathsep.join(sys.path)),
        )
        assert process.stdout is not None
        assert process.stdout.readline() == b"ready\n"
        time.sleep(chance.uniform(0.0, 0.15))
        process.send_signal(signal.SIGKILL)
        process.wait()
        process.stdout.close()
        assert load(path).pads == whole.pads


def test_permissions_are_kept(demo: Project, tmp_path: Path) -> None:
    path = tmp_path / "a.korbent"
    save(demo, path)
    path.chmod(0o640)
    save(demo, path)
    assert path.stat().st_mode & 0o777 == 0o640


def test_the_schema_in_the_documentation_is_the_present_one() -> None:
    path = Path(__file__).parents[2] / "docs" / "project.schema.json"
    assert json.loads(path.read_text()) == Project.model_json_schema(mode="serialization")
