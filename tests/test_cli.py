"""The command line, as a user calls it."""

import contextlib
import io
import json
import os
import subprocess
import sys
from pathlib import Path

import pytest

from korbent.cli import main
from korbent.core.model import Combination, Load, Project, edited
from korbent.files.project_file import save
from korbent.verification.pad import one_pad


def run(*words: object, cwd: Path | None = None, **environment: str) -> subprocess.CompletedProcess[str]:
    """As a command of its own where the folder, the environment or the start matters, else within this process: a start
    takes seconds."""
    if cwd is None and not environment and words != ("--version",):
        out, err, code = io.StringIO(), io.StringIO(), 0
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            try:
                main([str(w) for w in words])
            except SystemExit as end:
                code = int(end.code or 0)
        return subprocess.CompletedProcess(words, code, out.getvalue(), err.getvalue())
    kept = {k: v for k, v in os.environ.items() if k not in ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY")}
    path = os.pathsep.join(str(Path(p).resolve()) for p in sys.path if p)
    return subprocess.run(
        [sys.executable, "-m", "korbent", *map(str, words)],
        capture_output=True,
        text=True,
        cwd=cwd,
        env=kept | {"PYTHONPATH": path} | environment,
        timeout=120,
    )


def sound() -> Project:
    """A project in which everything holds."""
    return edited(one_pad(load=Load(V=300.0)), ("settings", "presumed_pressure"), 300.0)


@pytest.fixture
def good(tmp_path: Path) -> Path:
    project = sound()
    combinations = tuple(
        c.replaced(factors={"G": 1.0}) if isinstance(c, Combination) else c for c in project.actions.combinations
    )
    save(edited(project, ("actions", "combinations"), combinations), tmp_path / "good.korbent")
    return tmp_path / "good.korbent"


@pytest.fixture
def bad(tmp_path: Path, demo: Project) -> Path:
    save(demo, tmp_path / "bad.korbent")
    return tmp_path / "bad.korbent"


def test_check_that_holds(good: Path) -> None:
    found = run("check", good)
    assert found.returncode == 0, found.stdout
    assert "All checks hold." in found.stdout


def test_check_that_does_not_hold(bad: Path) -> None:
    found = run("check", bad)
    assert found.returncode == 1
    assert "fails" in found.stdout
    assert "not designed" in found.stdout


@pytest.mark.long
def test_check_as_json(bad: Path) -> None:
    found = run("check", bad, "--json")
    assert found.returncode == 1
    data = json.loads(found.stdout)
    assert set(data) == {"project", "checks", "worst", "settlement"}
    over_time = {p["name"]: p for p in data["settlement"]["points"]}
    checked = {c["foundation"]: c for c in data["checks"] if c["check"] == "settlement"}
    assert over_time["P7"]["final_mm"] == pytest.approx(checked["P7"]["demand"])
    assert [m["event"] for m in over_time["P7"]["over_time"]][-1] == "in the end"
    assert over_time["P7"]["t90"] > over_time["P7"]["t50"] > 0
    keys = {
        "foundation",
        "group",
        "check",
        "state",
        "ratio",
        "demand",
        "capacity",
        "unit",
        "combination",
        "reference",
        "message",
    }
    for entry in data["checks"]:
        assert set(entry) == keys
        assert entry["group"] in ("bearing", "stability", "settlement", "concrete")
    assert data["worst"]["foundation"] == "P8"
    assert "NaN" not in found.stdout


@pytest.mark.long
def test_explain(bad: Path) -> None:
    found = run("explain", bad, "P7", "punching")
    assert found.returncode == 0
    assert "v_Rd = max(v_c; v_min)·2·d / a" in found.stdout
    assert "ratio = " in run("explain", bad, "P8", "Against presumed pressure").stdout
    nothing = run("explain", bad, "P7", "sliding-undrained")
    assert "does not apply" in nothing.stdout


@pytest.mark.long
@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("check", "none.korbent"), "no such file"),
        (("explain", "{bad}", "P99", "punching"), "no foundation 'P99'"),
        (("explain", "{bad}", "P7", "magic"), "no check 'magic'"),
        (("report", "{bad}", "--out", "nowhere/r.pdf"), "was not written"),
        (("check",), "Missing argument"),
        (("check", "{bad}", "--frob"), "No such option"),
        (("none.korbent",), "no display"),
    ],
)
def test_bad_input_and_usage(bad: Path, tmp_path: Path, words: tuple[str, ...], says: str) -> None:
    found = run(*(w.format(bad=bad) for w in words), cwd=tmp_path)
    assert found.returncode == 2
    assert says in found.stderr
    assert "Traceback" not in found.stderr
    assert found.stdout == ""


def test_a_wrong_file_lists_its_errors(tmp_path: Path, bad: Path) -> None:
    data = json.loads(bad.read_text())
    data["project"]["pads"][0]["width"] = 0
    data["project"]["pads"][1]["width"] = -1
    (tmp_path / "w.korbent").write_text(json.dumps(data))
    found = run("check", tmp_path / "w.korbent")
    assert found.returncode == 2
    assert "pads[P1].width" in found.stderr
    assert "pads[P2].width" in found.stderr


@pytest.mark.long
def test_report(tmp_path: Path) -> None:
    save(sound(), tmp_path / "small.korbent")
    found = run("report", tmp_path / "small.korbent", "--out", tmp_path / "r.pdf")
    assert found.returncode == 0
    assert (tmp_path / "r.pdf").read_bytes().startswith(b"%PDF")


@pytest.mark.long
def test_demo_without_a_display_writes_the_example(tmp_path: Path) -> None:
    found = run("demo", cwd=tmp_path)
    assert found.returncode == 0, found.stderr
    assert "no display" in found.stdout
    folder = tmp_path / "korbent-example"
    assert str(folder) in found.stdout
    names = {p.name for p in folder.iterdir()}
    assert {"lindmere.korbent", "results.json", "report.pdf"} <= names
    pictures = [p for p in folder.iterdir() if p.suffix == ".png"]
    assert len(pictures) >= 5
    for picture in pictures:
        data = picture.read_bytes()
        size = int.from_bytes(data[16:20], "big"), int.from_bytes(data[20:24], "big")
        assert size == (1280, 800), picture.name


@pytest.mark.long
def test_verify(tmp_path: Path) -> None:
    """A part of the cases; all of them are computed one by one elsewhere."""
    found = run("verify", "--only", "Stability", "--out", tmp_path / "v.md")
    assert found.returncode == 0
    text = (tmp_path / "v.md").read_text()
    assert "within their tolerance" in text
    assert "stability: net safety, demand" in text
    assert run("verify", "--only", "no such thing").returncode == 2


def test_version() -> None:
    assert run("--version").stdout.startswith("Korbent ")


@pytest.mark.long
def test_the_bar_schedule_is_written(tmp_path: Path) -> None:
    from openpyxl import load_workbook

    from korbent.core.concrete.schedule import schedule
    from korbent.demo import coombe
    from korbent.files.project_file import save

    odd = "upper/left: [1]"
    known = coombe()
    types = tuple(t.replaced(name=odd) if t.name == "upper" else t for t in known.types)
    project = known.replaced(
        types=types, pads=tuple(p.replaced(type=odd) if p.type == "upper" else p for p in known.pads)
    )
    file = tmp_path / "c.korbent"
    save(project, file)
    found = run("schedule", str(file), "--out", str(tmp_path / "bars.xlsx"))
    assert found.returncode == 0
    assert f"{len(schedule(project))} marks" in found.stdout
    book = load_workbook(tmp_path / "bars.xlsx")
    assert len(book.sheetnames) == 3
    assert run("schedule", str(file), "--out", str(tmp_path / "no" / "bars.csv")).returncode == 2


@pytest.mark.long
def test_a_check_that_the_base_has_not_is_said_so(tmp_path: Path) -> None:
    from korbent.demo import coombe
    from korbent.files.project_file import save

    save(coombe(), tmp_path / "c.korbent")
    found = run("explain", str(tmp_path / "c.korbent"), "F1", "plain-x")
    assert found.returncode == 0
    assert "does not apply" in found.stdout


@pytest.mark.long
def test_a_bare_strip_is_exact_and_bracketed() -> None:
    found = run("strip", "--width", 1, "--phi", 30, "--q", 10, "--triangles", 150, "--json")
    assert found.returncode == 0, found.stderr
    values = json.loads(found.stdout)
    # Reissner (1924): N_q at 30 degrees, whatever the base is like, without weight
    assert values["exact"] == pytest.approx(184.011, rel=1e-5)
    assert values["lower"] < values["exact"] < values["upper"]
    text = run("strip", "--width", 1, "--phi", 30, "--q", 10, "--triangles", 0).stdout
    assert "184.01 kPa" in text
    assert "bound" not in text


@pytest.mark.long
def test_a_base_of_a_file_is_looked_at_as_a_strip(bad: Path) -> None:
    text = run("strip", bad, "--base", "P4", "--triangles", 300)
    assert text.returncode == 0, text.stderr
    assert "lower bound" in text.stdout
    assert "EN 1997-1 Annex D" in text.stdout
    values = json.loads(run("strip", bad, "--base", "P4", "--triangles", 300, "--json").stdout)
    assert 0 < values["lower"] < values["upper"]


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("strip", "--gamma", 18), "no strength"),
        (("strip", "--phi", 60, "--q", 10), "between 0 and 50"),
        (("strip", "--phi", 30, "--base", "P1"), "needs a project file"),
    ],
)
def test_a_strip_that_cannot_be_says_why(words: tuple[object, ...], said: str) -> None:
    found = run(*words)
    assert (found.returncode, found.stdout) == (2, "")
    assert said in found.stderr


def test_a_strip_of_a_file_needs_a_base_that_is_there(bad: Path) -> None:
    assert "--base" in run("strip", bad).stderr
    assert "P4" in run("strip", bad, "--base", "nowhere").stderr


@pytest.mark.long
def test_every_situation_of_a_base_and_a_bare_slope(bad: Path) -> None:
    text = run("strip", bad, "--base", "P4", "--triangles", 200, "--situations").stdout
    assert "from below" in text
    rows = json.loads(run("strip", bad, "--base", "P4", "--triangles", 200, "--situations", "--json").stdout)[
        "situations"
    ]
    assert all(row["lower"] < row["upper"] for row in rows if not row["why"])
    assert [row["ratio"] for row in rows if row["ratio"]] == sorted(
        (row["ratio"] for row in rows if row["ratio"]), reverse=True
    )
    assert len(text.splitlines()) == len(rows) + 1
    assert "need a project file" in run("strip", "--phi", 30, "--q", 10, "--situations").stderr
    level, falls = (
        json.loads(
            run(
                "strip",
                "--width",
                2,
                "--c",
                10,
                "--phi",
                25,
                "--gamma",
                18,
                "--triangles",
                300,
                "--slope",
                s,
                "--json",
            ).stdout
        )
        for s in (0, 20)
    )
    assert falls["exact"] is None
    assert falls["upper"] < level["lower"]
    assert "at most 45" in run("strip", "--c", 10, "--slope", 50).stderr


@pytest.mark.long
def test_a_curve_and_an_envelope_of_a_base(bad: Path) -> None:
    text = run("strip", bad, "--base", "P4", "--triangles", 300, "--curve", "rigid strip").stdout
    assert "collapse at" in text
    assert " kPa (combination" in text
    assert "is not known" in run("strip", bad, "--base", "P4", "--curve", "ring").stderr
    assert "tilt" not in text
    pushed = run("strip", bad, "--base", "P4", "--triangles", 300, "--curve", "rigid strip", "--load", "all").stdout
    assert "tilt" in pushed
    found = json.loads(run("strip", bad, "--base", "P4", "--triangles", 200, "--envelope", "V-H", "--json").stdout)
    assert len(found["lower"]) == len(found["upper"]) > 4
    assert all(low[0] <= high[0] + 1e-6 for low, high in zip(found["lower"], found["upper"]))
    assert "is not known" in run("strip", bad, "--base", "P4", "--envelope", "V-X").stderr
    assert "need a project file" in run("strip", "--phi", 30, "--q", 10, "--curve", "circle").stderr
    assert "is not known" in run("strip", bad, "--base", "P4", "--load", "some").stderr
