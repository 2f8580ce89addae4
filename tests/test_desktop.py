"""Korbent among other applications: what is installed, that the desktop's own tools take it, and that it goes again."""

import shutil
import subprocess
import tomllib
from pathlib import Path
from xml.etree import ElementTree

import pytest
from typer.testing import CliRunner

from korbent import __version__
from korbent.cli import app, main
from korbent.desktop import ID, MIME, desktop_entry, files, install, uninstall
from korbent.desktop.manual import EXAMPLES, bash_completion, commands, manual_page
from korbent.entry import COMMANDS

ROOT = Path(__file__).parents[1]


@pytest.fixture
def put(tmp_path: Path) -> tuple[Path, Path, Path]:
    """A command, the data folder and the folder of commands of somebody's home."""
    command = tmp_path / "some where" / "korbent"
    command.parent.mkdir()
    command.write_text("#!/bin/sh\n")
    return command, tmp_path / "share", tmp_path / "bin"


def test_installed_and_taken_away(put: tuple[Path, Path, Path]) -> None:
    command, data, programs = put
    made = install(command, data, programs)
    assert {str(p.relative_to(data)) for p in made[:-1]} == set(files(""))
    assert (programs / "korbent").resolve() == command
    install(command, data, programs)  # once more changes nothing
    mine = programs / "other"
    mine.write_text("mine")
    gone = uninstall(data, programs, command)
    assert set(gone) == set(made)
    assert not (programs / "korbent").exists()
    assert mine.read_text() == "mine"
    assert uninstall(data, programs, command) == []


def test_a_program_of_that_name_stays(put: tuple[Path, Path, Path]) -> None:
    command, data, programs = put
    programs.mkdir()
    (programs / "korbent").write_text("another")
    said: list[str] = []
    install(command, data, programs, said.append)
    assert (programs / "korbent").read_text() == "another"
    assert "another program" in said[0]
    uninstall(data, programs, command)
    assert (programs / "korbent").read_text() == "another"


def test_the_command_line_installs_for_the_user(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("HOME", str(tmp_path))
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    done = CliRunner().invoke(app, ["install"])
    assert done.exit_code == 0, done.output
    entry = (tmp_path / "data" / "applications" / f"{ID}.desktop").read_text()
    assert f'Exec="{ROOT / "korbent"}" --window %f' in entry
    assert f"MimeType={MIME};" in entry
    assert CliRunner().invoke(app, ["uninstall"]).exit_code == 0
    assert not list((tmp_path / "data").rglob("*.desktop"))


@pytest.mark.parametrize(
    ("tool", "args", "place"),
    [
        ("desktop-file-validate", (), f"applications/{ID}.desktop"),
        ("appstreamcli", ("validate", "--no-net"), f"metainfo/{ID}.metainfo.xml"),
    ],
)
def test_the_tools_of_the_desktop_take_it(
    put: tuple[Path, Path, Path], tool: str, args: tuple[str, ...], place: str
) -> None:
    command, data, programs = put
    install(command, data, programs)
    found = shutil.which(tool)
    if found is None:
        pytest.skip(f"{tool} is not on this machine")
    done = subprocess.run([found, *args, str(data / place)], capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stdout + done.stderr


def test_paths_are_quoted_as_desktop_entries_ask() -> None:
    assert 'Exec="/opt/a b/korbent" --window %f' in desktop_entry("/opt/a b/korbent")
    line = next(x for x in desktop_entry('/opt/100%/"k"').splitlines() if x.startswith("Exec"))
    assert "100%%" in line
    assert '\\\\\\"k' in line


def test_icon_type_and_description_are_what_they_should_be() -> None:
    for place, text in files("korbent").items():
        if place.endswith((".svg", ".xml")):
            root = ElementTree.fromstring(text.encode())
            assert root.tag.rpartition("}")[2] in ("svg", "mime-info", "component")
    described = ElementTree.fromstring(files("")[f"metainfo/{ID}.metainfo.xml"].encode())
    assert described.findtext("id") == ID
    assert described.find("releases/release").get("version") == __version__  # type: ignore[union-attr]


def test_manual_and_completion_name_every_command_and_option() -> None:
    page, completion = manual_page(), bash_completion()
    names = [name for name, _ in commands()]
    assert set(names) == set(COMMANDS) - {"open"}
    for name, command in commands():
        assert f"\\fB{name}\\fR" in page
        assert name in completion
        for option in command.params:
            if option.param_type_name == "option" and option.name != "help":
                assert option.opts[0] in completion
                assert option.opts[0].replace("-", "\\-") in page
                assert option.help
    shell = shutil.which("bash")
    assert shell is not None
    assert subprocess.run([shell, "-n"], input=completion, text=True, check=False).returncode == 0
    listed = subprocess.run(
        [shell, "-c", f"{completion}\nCOMP_WORDS=(korbent ex); COMP_CWORD=1; _korbent; echo ${{COMPREPLY[@]}}"],
        capture_output=True,
        text=True,
        check=True,
    ).stdout
    assert {"explain", "example"} <= set(listed.split())


def test_help_shows_commands_and_examples(capsys: pytest.CaptureFixture[str]) -> None:
    main(["--help"])
    text = capsys.readouterr().out
    assert all(name in text for name, _ in commands())
    assert all(line in text for line, _ in EXAMPLES)
    for line, _ in EXAMPLES:  # the examples name what is there
        words = line.split()[1:]
        assert not words or words[0].endswith(".korbent") or words[0] in COMMANDS


def test_the_package_asks_for_what_the_lock_holds() -> None:
    asked = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]["dependencies"]
    names = {part.split(">=")[0].lower() for part in asked}
    pinned = {line.split("==")[0].lower() for line in (ROOT / "requirements.in").read_text().split() if "==" in line}
    tools = {
        "pytest",
        "pytest-qt",
        "pytest-benchmark",
        "babel",
        "hypothesis",
        "pypdf",
        "ruff",
        "mypy",
        "import-linter",
        "pytest-xdist",
    }
    assert names == pinned - tools
