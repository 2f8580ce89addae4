"""What the documentation says is true."""

import ast
import re
from pathlib import Path

import pytest
import typer

from korbent import api
from korbent.cli import app
from korbent.core.checks import CHECKS, State
from korbent.core.evaluate import evaluate
from korbent.demo import lindmere
from korbent.files.project_file import loads

ROOT = Path(__file__).parents[1]
DOCS = sorted([ROOT / "README.md", *(ROOT / "docs").glob("*.md")])


def test_the_smallest_project_of_the_format_page_can_be_checked() -> None:
    text = (ROOT / "docs" / "file-format.md").read_text()
    blocks = re.findall(r"```json\n(.*?)```", text, re.DOTALL)
    project = loads(blocks[-1], Path("docs"))
    found = evaluate(project).pads[0].check("presumed-pressure")
    assert found.ratio is not None
    assert 0.5 < found.ratio < 1.2


@pytest.mark.parametrize("page", DOCS, ids=lambda p: p.name)
def test_links_lead_somewhere(page: Path) -> None:
    for target in re.findall(r"\]\(([^)#]+)\)", page.read_text()):
        assert "://" not in target, target
        assert (page.parent / target).exists(), f"{page.name}: {target}"


def test_every_state_is_explained() -> None:
    guide = (ROOT / "docs" / "guide.md").read_text()
    for state in State:
        assert state.value in guide


def test_fewer_than_twenty_pictures() -> None:
    assert 4 < len(list((ROOT / "docs" / "screenshots").iterdir())) < 20


def test_every_check_has_a_reference() -> None:
    for check in CHECKS.values():
        assert check.reference
        assert check.about
        assert check.title[0].isupper()


@pytest.mark.long
def test_the_python_of_the_documentation_runs(capsys: pytest.CaptureFixture[str]) -> None:
    """All blocks of the page, one after the other, as a reader would paste them; it speaks of all that is promised, and
    of nothing else."""
    text = (ROOT / "docs" / "python.md").read_text()
    blocks = re.findall(r"```python\n(.*?)```", text, re.DOTALL)
    assert len(blocks) == 8
    names: dict[str, object] = {}
    for block in blocks:
        exec(compile(block, "docs/python.md", "exec"), names)
    printed = capsys.readouterr().out
    assert "Brinch Hansen 1970" in printed
    assert "presumed-pressure" in printed
    assert "mm2/m" in printed
    for name in set(api.__all__) - {"Bearing", "Pressed"}:
        assert f"`{name}" in text or f"api.{name}" in text, name
    assert set(re.findall(r"api\.(\w+)", text)) <= {*api.__all__, "model"}


def test_the_words_of_the_glossary_are_those_of_the_code() -> None:
    paths = [*(ROOT / "src").rglob("*.py")]
    words = {word for path in paths for word in re.findall(r"\w+", path.read_text("utf-8"))}
    files = {path.name for path in paths}
    rows = [line.split("|") for line in (ROOT / "docs" / "glossary.md").read_text("utf-8").splitlines()]
    named = [word for row in rows if len(row) == 6 for word in re.findall("`([^`]+)`", row[2])]
    assert len(named) > 40
    for word in named:
        name = word.rpartition("/")[2]
        assert name in files if name.endswith(".py") else name.rpartition(".")[2] in words, word


def said_in_the_program() -> set[str]:
    """All its texts, in small letters, without what hints at more and without places for values."""
    found = set()
    for path in (ROOT / "src" / "korbent").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            if isinstance(node, ast.Constant) and isinstance(node.value, str):
                found.add(plain(re.sub(r"\{\w+\}", "", node.value)))
    return found


def plain(text: str) -> str:
    return re.sub(r"\s+", " ", text).casefold().strip(" …▾▸✕✓.,:")


NO_TEXTS = {"Backspace": "a key", "12 high water": "a combination", "Add rib": "Add {noun}", "Add strap": "Add {noun}"}
"""In italics in the guide, without being texts of the program; why."""


def test_what_is_named_to_press_stands_in_the_window() -> None:
    texts = said_in_the_program()
    for page in ("README.md", "docs/guide.md"):
        text = re.sub(r"```.*?```", "", (ROOT / page).read_text("utf-8"), flags=re.DOTALL).replace("**", "")
        named = dict.fromkeys(re.findall(r"(?<![\w*])\*([^*\n]{2,60})\*(?![\w*])", text))
        assert len(named) > 20
        for name in named:
            parts = [name] if plain(name) in texts else re.split(r" > |, ", name)
            missing = [p for p in parts if plain(p) not in texts and plain(p.replace("…", "")) not in texts]
            assert not missing or name in NO_TEXTS, f"{page}: '{name}' stands nowhere in the window"


def test_commands_of_the_readme_are_those_of_the_program() -> None:
    known = {name: one for name, one in typer.main.get_command(app).commands.items() if not one.hidden}  # type: ignore[attr-defined]
    written = "\n".join(re.findall(r"```\n(.*?)```", (ROOT / "README.md").read_text("utf-8"), re.DOTALL))
    named = {}
    for name, rest in re.findall(r"^\./korbent (\w+)(.*)$", written, re.MULTILINE):
        named.setdefault(name, set()).update(re.findall(r"--[a-z-]+", rest))
    assert set(named) | {"uninstall"} == set(known)
    for name, options in named.items():
        assert options <= {option for parameter in known[name].params for option in parameter.opts}, name


def test_the_first_tour_speaks_of_the_demo_as_it_is() -> None:
    """P11 fails by its pressure, P10 and P15 by the slope between them; S1 ties P8 to P7."""
    text = (ROOT / "README.md").read_text("utf-8")
    assert "P11 fails by its pressure, P10 and P15 by the slope between them" in text
    demo = lindmere()
    failing = {(c.foundation, c.check.id) for c in evaluate(demo).all_checks if c.state is State.FAILS}
    assert failing == {("P11", "presumed-pressure"), ("P10", "slope"), ("P15", "slope")}
    assert "S1 ties P8 to P7" in text
    (strap,) = demo.straps
    assert (strap.name, strap.edge, strap.inner) == ("S1", "P8", "P7")
