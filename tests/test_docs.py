"""What the documentation says is true."""

import re
from pathlib import Path

import pytest

from korbent import api
from korbent.core.checks import CHECKS, State
from korbent.core.evaluate import evaluate
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
    source = "\n".join(p.read_text("utf-8") for p in (ROOT / "src").rglob("*.py"))
    files = {p.name for p in (ROOT / "src").rglob("*.py")}
    rows = [line.split("|") for line in (ROOT / "docs" / "glossary.md").read_text("utf-8").splitlines()]
    named = [word for row in rows if len(row) == 6 for word in re.findall("`([^`]+)`", row[2])]
    assert len(named) > 40
    for word in named:
        name = word.rpartition("/")[2]
        known = name in files if name.endswith(".py") else re.search(rf"\b{name.rpartition('.')[2]}\b", source)
        assert known, word
