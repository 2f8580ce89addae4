"""What is said: codes with values, catalogues of other languages, keys and their labels."""

import ast
import gettext
import json
import os
import pickle
import re
import subprocess
import sys
from pathlib import Path
from string import Formatter
from typing import Any, Literal, get_args, get_origin

import pytest
from babel.messages.catalog import Catalog
from babel.messages.mofile import write_mo
from tools.words import SAID, problems, template

from korbent import words
from korbent.core.checks import State
from korbent.core.model import Project
from korbent.core.model.frozen import Frozen
from korbent.core.model.labels import LABELS, key_of, label
from korbent.demo import lindmere
from korbent.files.older import ABOVE, WORDS
from korbent.files.project_file import ProjectFileError, content_of, load, project_of
from korbent.words import Message, english, joined, say, say_count
from korbent.words.languages import language, made_up

SOURCE = Path(words.__file__).parents[1]
DESIGNATIONS = re.compile(
    r"|[-+][xy]|EQU|UPL|M1|M2|M1\+R2\*?|R|SPT N|CPT (qc|fs|u2)|PI|wL|kNm?|[kM]Pa|kN/m3|0\.9|\d+"
    r"|X[0CDS]\d?|[ABC][12]|EN 1997-1:2004|EN 1997-1 Annex D|DA\d\*?|[A-Z][A-Za-z ]+ (19|20)\d\d"
)
"""Keys that are the same in every language: axes, sets, tests, units, classes, clauses, authors with their year."""


@pytest.fixture
def made_up_spoken(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(words._Spoken, "wording", staticmethod(made_up))


def test_a_message_knows_its_code_and_values() -> None:
    said = say("a base {width:.2f} m wide under {column}", width=2.0, column="B2")
    assert said == "a base 2.00 m wide under B2"
    assert isinstance(said, Message)
    assert (said.code, dict(said.values)) == (
        "a base {width:.2f} m wide under {column}",
        {"width": 2.0, "column": "B2"},
    )
    again = pickle.loads(pickle.dumps(said))
    assert (again, again.code, again.values) == (said, said.code, said.values)
    assert say("no foundation yet") == "no foundation yet"


def test_texts_that_stand_together_are_still_known() -> None:
    both = joined(("", say("ratio of {column}", column="B2"), "", say("no bars")))
    assert both == "ratio of B2; no bars"
    assert english(both) == both
    assert joined(("", say("no bars"))) == "no bars"
    assert joined(()) == ""


def test_it_is_said_again_in_another_language(made_up_spoken: None) -> None:
    inner = say("the bottom face")
    said = say("{face} of {base} fails", face=inner, base="P7")
    assert not re.search("[a-z]{2}", said.replace("P7", ""))
    assert "P7" in said
    assert english(said) == "the bottom face of P7 fails"
    assert english("typed by hand") == "typed by hand"
    assert english(joined((said, inner))) == "the bottom face of P7 fails; the bottom face"
    # what a worker sends is worded where it arrives
    there = pickle.dumps(said)
    words.speak(None)
    assert pickle.loads(there) == "the bottom face of P7 fails"


@pytest.mark.parametrize(("number", "text"), [(0, "0 bases"), (1, "1 base"), (7, "7 bases")])
def test_one_and_many(number: int, text: str) -> None:
    assert say_count(number, "{number} base", "{number} bases") == text


def test_markup_and_values_stay_in_the_language_that_is_made_up() -> None:
    found = made_up("<b>Width</b> {width:.1f} m &amp; more")
    assert found.startswith("<b>")
    assert "</b> {width:.1f} " in found
    assert "&amp;" in found
    assert not re.search(r"Width|more| m ", found)


def _catalogue(path: Path, **more: Any) -> Path:
    made = Catalog(locale="de", project="Korbent")
    made.add("no foundation yet", "noch kein Fundament")
    made.add("the base {pad} is {wide:.1f} m wide", "{wide:.1f} m breit ist das Fundament {pad}")
    made.add(("{number} base", "{number} bases"), ("{number} Fundament", "{number} Fundamente"))
    made.add("a base of {kind}", more.get("wrong", "ein Fundament aus {kind}"))
    with path.open("wb") as file:
        write_mo(file, made)
    return path


def _run(program: str, spoken: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-c", program],
        capture_output=True,
        text=True,
        check=True,
        encoding="utf-8",
        env={**os.environ, "KORBENT_LANGUAGE": spoken, "PYTHONPATH": str(SOURCE.parent), "PYTHONIOENCODING": "utf-8"},
    )


PROGRAM = """
from korbent.words import say, say_count
print(say("no foundation yet"), say("the base {pad} is {wide:.1f} m wide", pad="P1", wide=2), sep="|", end="|")
print(say_count(3, "{number} base", "{number} bases"), say("a base of {kind}", kind="x"), say("else"), sep="|")
"""


def test_a_catalogue_is_another_language(tmp_path: Path) -> None:
    path = _catalogue(tmp_path / "de.mo")
    said = _run(PROGRAM, str(path)).stdout.strip()
    assert said == "noch kein Fundament|2.0 m breit ist das Fundament P1|3 Fundamente|ein Fundament aus x|else"


def test_a_catalogue_that_names_other_values_is_left_for_english(tmp_path: Path) -> None:
    path = _catalogue(tmp_path / "de.mo", wrong="ein Fundament aus {werkstoff}")
    assert _run(PROGRAM, str(path)).stdout.strip().endswith("|a base of x|else")


@pytest.mark.parametrize("name", ["xx", "nowhere/xx.mo"])
def test_a_language_that_is_not_there_is_said_and_english_spoken(name: str) -> None:
    done = _run(PROGRAM, name)
    assert done.stdout.startswith("no foundation yet|the base P1 is 2.0 m wide|3 bases")
    assert "KORBENT_LANGUAGE" in done.stderr
    assert "name a .mo file" in done.stderr
    with pytest.raises(ValueError, match="no catalogue of texts"):
        language(name)


def test_a_damaged_catalogue_is_refused(tmp_path: Path) -> None:
    (tmp_path / "de.mo").write_bytes(b"\xde\x12\x04\x95" + b"\0" * 3)
    with pytest.raises(ValueError, match="no catalogue of texts"):
        language(str(tmp_path / "de.mo"))


# ---------------------------------------------------------------- how it is written


def _said() -> list[tuple[str, int, str, set[str]]]:
    """(file, line, code, the names of its values) of every text in the program."""
    found = []
    for path in SOURCE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            if not (isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in SAID):
                continue
            at = (path.relative_to(SOURCE).as_posix(), node.lineno)
            codes = [node.args[k] for k in SAID[node.func.id]]
            if node.func.id == "Afloat":
                assert isinstance(node.args[1], ast.Dict)
                given = {str(key.value) for key in node.args[1].keys if isinstance(key, ast.Constant)}
            else:
                given = {k.arg for k in node.keywords if k.arg} | ({"number"} if len(codes) > 1 else set())
            for code in codes:
                assert isinstance(code, ast.Constant), (*at, "a text is said as it stands, with values by name")
                found.append((*at, str(code.value), given))
    return found


def test_every_text_is_said_with_the_values_it_names() -> None:
    found = _said()
    assert len(found) > 4000
    for file, line, code, given in found:
        named = {name for _, name, _, _ in Formatter().parse(code) if name is not None} if given else set()
        assert named <= given, (file, line, code)
        assert given - named <= {"number"}, (file, line, code, "a value that is not said")
        assert given or not re.search(r"\{\w+\}", code), (file, line, code)


@pytest.mark.long
def test_the_template_has_every_text() -> None:
    texts = {t for m in template() for t in (m.id if isinstance(m.id, tuple) else (m.id,))}
    assert {code for file, _, code, _ in _said() if not file.startswith("verification/")} <= texts
    assert "permanent, unfavourable" in texts  # of a rule set


def test_a_translation_with_other_values_is_named() -> None:
    made = Catalog(locale="de")
    made.add("{a} of {b}", "{b}: {a}")
    assert problems(made) == []
    made.add("{a} or {b}", "{b} oder {c}")
    made.add("{a} and", "{a und")
    assert len(problems(made)) == 2


# ---------------------------------------------------------------- keys


def _keys() -> dict[str, set[str]]:
    """By field, the keys that a project may hold there."""
    found: dict[str, set[str]] = {}

    def literals(annotation: Any) -> set[str]:
        if get_origin(annotation) is Literal:
            return {v for v in get_args(annotation) if isinstance(v, str)}
        return set().union(*map(literals, get_args(annotation))) if get_args(annotation) else set()

    def below(model: type[Frozen]) -> None:
        for one in model.__subclasses__():
            if not one.__module__.startswith("korbent.core.model"):
                continue
            for name, field in one.model_fields.items():
                found.setdefault(name, set()).update(literals(field.annotation))
            below(one)

    below(Frozen)
    return found


def test_what_a_project_holds_are_keys_and_labels_stand_apart() -> None:
    keys = set().union(*_keys().values())
    assert len(keys) > 200
    for key in keys:
        assert re.fullmatch("[a-z0-9_]*", key) or DESIGNATIONS.fullmatch(key), key
        # a key of several words is never read itself
        assert "_" not in key or key in LABELS, key


def test_a_key_is_understood_by_itself_or_its_label() -> None:
    keys = ("settlement_long", "settlement_short", "uplift")
    for text in ("settlement_long", "settlement long", " Settlement Long ", label("settlement_long")):
        assert key_of(text, keys) == "settlement_long"
    assert key_of("settlement", keys) is None
    assert key_of("", ("", "x")) == ""


def test_labels_tell_the_keys_of_a_field_apart() -> None:
    for field, keys in _keys().items():
        named = [label(k) for k in keys]
        assert len(set(named)) == len(named), field


def test_states_have_words() -> None:
    assert {s.word for s in State} == {s.value for s in State}  # English
    assert len({s.word for s in State}) == len(State)


# ---------------------------------------------------------------- older files


def _backwards(value: Any, field: str = "") -> Any:
    """A project as files held it before keys."""
    if isinstance(value, dict):
        if field == "rule_values":
            return {k.replace(*reversed(ABOVE)): v for k, v in value.items()}
        found = {k: _backwards(v, field if field == "pins" else k) for k, v in value.items()}
        return {"held" if k == "pins" and field == "reinforcement" else k: v for k, v in found.items()}
    if isinstance(value, list):
        return [_backwards(part, field) for part in value]
    if not isinstance(value, str):
        return value
    return next((word for word, key in WORDS.get(field, {}).items() if key == value), value)


def test_files_with_words_are_read_as_ever(demo: Project) -> None:
    settings = demo.settings.replaced(
        presumed_compares="effective_area", uplift_sides="soil_wedge", means_of="phi", weak_over_strong="weak_alone"
    )
    project = demo.replaced(
        settings=settings,
        actions=demo.actions.replaced(rule_values={"psi2 snow above_1000_m": 0.3}),
        pads=(
            demo.pads[0].replaced(
                overrides={"creep_from": "log_time"},
                reinforcement=demo.pads[0].reinforcement.replaced(pins={"bottom_x": "at_least"}),
            ),
            *demo.pads[1:],
        ),
    )
    content = content_of(project)
    old = {**content, "version": 2, "project": _backwards(content["project"])}
    text = json.dumps(old, ensure_ascii=False)
    for word in ("effective area", "soil wedge", "settlement long", "concrete column", "above 1000 m", "at least"):
        assert f'"{word}' in text or f'{word}"' in text, word
    assert project_of(old, Path("old.korbent")) == project
    # of this version they are no keys
    with pytest.raises(ProjectFileError, match=r"presumed_compares: .*'effective_area'"):
        project_of({**old, "version": 3}, Path("old.korbent"))


def test_every_word_of_before_has_a_key_that_is_there() -> None:
    keys = _keys()
    for field, of_field in WORDS.items():
        allowed = keys.get(field, set()) if field not in ("pins", "category", "hidden") else set(of_field.values())
        for word, key in of_field.items():
            assert key in allowed, (field, word)
            assert label(key) == word, (field, key)


def test_a_file_of_a_project_is_the_same_in_every_language(tmp_path: Path) -> None:
    program = """
import sys
from pathlib import Path
from korbent.demo import lindmere
from korbent.files.project_file import save
save(lindmere(), Path(sys.argv[1]))
"""
    path = tmp_path / "made-up.korbent"
    subprocess.run(
        [sys.executable, "-c", program, str(path)],
        check=True,
        env={**os.environ, "KORBENT_LANGUAGE": "made-up", "PYTHONPATH": str(SOURCE.parent)},
    )
    there, here = load(path), lindmere()
    # where a program writes what a person might have written, such as the names of rows, it is in that language
    assert (there.settings, there.pads, there.ground, there.site) == (here.settings, here.pads, here.ground, here.site)
    assert [c.replaced(origin="") for c in there.actions.combinations] == [
        c.replaced(origin="") for c in here.actions.combinations
    ]


def test_gettext_gives_the_plural_of_a_language(tmp_path: Path) -> None:
    with _catalogue(tmp_path / "de.mo").open("rb") as file:
        assert gettext.GNUTranslations(file).ngettext("{number} base", "{number} bases", 1) == "{number} Fundament"
