"""The .korbent file: versioned JSON, saved atomically, and refused as a whole when anything in it is wrong."""

import json
import re
from pathlib import Path
from types import SimpleNamespace
from typing import Any

from pydantic import ValidationError

from korbent.core.model import InconsistentError, Problem, Project, inconsistencies, recomputed
from korbent.core.model.expressions import ExpressionError
from korbent.core.model.frozen import BOOKKEEPING
from korbent.files.atomic import write_whole
from korbent.files.older import brought_up
from korbent.words import say

FORMAT = "korbent"
VERSION = 3


class ProjectFileError(Exception):
    """A file that cannot be used, with all that is wrong and where."""

    def __init__(self, path: Path, problems: list[Problem]) -> None:
        self.path = path
        self.problems = problems
        lines = "\n".join(f"  {problem}" for problem in problems)
        count = say("one error") if len(problems) == 1 else say("{problems} errors", problems=len(problems))
        super().__init__(say("{path}: {count}; nothing was loaded.\n{lines}", path=path, count=count, lines=lines))


def content_of(project: Project) -> dict[str, Any]:
    """What a file of a project holds, as JSON has it."""
    return {
        "format": FORMAT,
        "version": VERSION,
        "project": _without_empty(project.model_dump(mode="json", exclude_none=True)),
    }


def dumps(project: Project) -> str:
    """The text of the file of a project."""
    return json.dumps(content_of(project), indent=1, ensure_ascii=False) + "\n"


def _without_empty(value: Any) -> Any:
    """Without the bookkeeping of rows that keep none."""
    if isinstance(value, dict):
        return {k: _without_empty(v) for k, v in value.items() if v or k not in BOOKKEEPING}
    return [_without_empty(v) for v in value] if isinstance(value, list) else value


def save(project: Project, path: Path) -> None:
    """Writes the project; at any moment the path holds either the old file or the new one, whole.

    Raises:
        OSError: when the folder cannot be written.
    """
    write_whole(Path(path), dumps(project).encode())


def load(path: Path) -> Project:
    """Reads a project.

    Raises:
        ProjectFileError: listing every error with its place.
    """
    path = Path(path)
    try:
        text = path.read_text(encoding="utf-8")
    except FileNotFoundError:
        raise ProjectFileError(path, [Problem("file", say("there is no such file"))]) from None
    except IsADirectoryError:
        raise ProjectFileError(path, [Problem("file", say("this is a folder; name a .korbent file"))]) from None
    except UnicodeDecodeError:
        raise ProjectFileError(path, [Problem("file", say("this is not a text file"))]) from None
    except OSError as error:
        raise ProjectFileError(path, [Problem("file", error.strerror or str(error))]) from None
    return loads(text, path)


LARGEST = 100_000_000
"""Bytes of a file, at most."""
DEEPEST = 60
"""Lists and objects within each other, at most."""
DIGITS = 100
"""Of one number, at most."""


def read_json(path: Path) -> dict[str, Any]:
    """The object of a JSON file.

    Raises:
        ProjectFileError: when it is none.
        OSError: when it cannot be read.
    """
    return _object(path.read_bytes().decode("utf-8", errors="replace"), path)


def _object(text: str, path: Path) -> dict[str, Any]:
    def refused(place: str, message: str) -> ProjectFileError:
        return ProjectFileError(path, [Problem(place, message)])

    if len(text) > LARGEST:
        raise refused("file", say("it is larger than {largest} MB: that is no project", largest=LARGEST // 1_000_000))
    if _depth(text) > DEEPEST:
        raise refused("file", say("nested too deeply"))
    try:
        content = json.loads(text, object_pairs_hook=_no_doubles, parse_int=_whole)
    except json.JSONDecodeError as error:
        raise refused(
            say("line {line}, column {column}", line=error.lineno, column=error.colno),
            say("not valid JSON: {msg}", msg=error.msg),
        ) from None
    except _DoubleKeyError as error:
        raise refused("file", str(error)) from None
    except _LongNumberError as error:
        raise refused("file", str(error)) from None
    except RecursionError:
        raise refused("file", say("nested too deeply")) from None
    return content if isinstance(content, dict) else {"": content}


class _LongNumberError(ValueError):
    pass


def _whole(digits: str) -> int:
    if len(digits) > DIGITS:
        raise _LongNumberError(
            say(
                "a number of {digits} digits ({digits_2}…) is no value that can be meant",
                digits=len(digits),
                digits_2=digits[:12],
            )
        )
    return int(digits)


def _depth(text: str) -> int:
    """How deep brackets go; those within texts count too, which is enough to refuse what would break the reader."""
    deepest = depth = 0
    for bracket in re.findall(r'"(?:[^"\\]|\\.)*"|[\[\]{}]', text):
        if bracket in "[{":
            depth += 1
            deepest = max(deepest, depth)
        elif bracket in "]}":
            depth -= 1
    return deepest


def loads(text: str, path: Path) -> Project:
    """The project of a file's text (see :func:`load`)."""
    return project_of(_object(text, path), path)


def project_of(content: Any, path: Path) -> Project:
    """The project of what a file holds.

    Raises:
        ProjectFileError: listing every error with its place.
    """
    problem = _wrong_kind(content)
    if problem:
        raise ProjectFileError(path, [problem])
    raw = brought_up(content["project"], content["version"])
    try:
        return recomputed(Project.model_validate(raw))
    except ValidationError as error:
        raise ProjectFileError(path, problems_of(error, raw)) from None
    except RecursionError:
        raise ProjectFileError(
            path, [Problem("project", say("expressions depend on each other in too long a chain"))]
        ) from None
    except (
        ExpressionError,
        KeyError,
        IndexError,
        AttributeError,
        TypeError,
        ValueError,
        OverflowError,
    ) as error:
        # expressions at places that are not there, values that no number holds
        said = str(error).splitlines()[0][:200] if str(error) else type(error).__name__
        raise ProjectFileError(path, [Problem("project", say("it does not fit together: {said}", said=said))]) from None


class _DoubleKeyError(ValueError):
    pass


def _no_doubles(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    result = dict(pairs)
    if len(result) < len(pairs):
        keys = [key for key, _ in pairs]
        twice = next(key for key in keys if keys.count(key) > 1)
        raise _DoubleKeyError(say("the key {twice!r} stands twice in one object; remove one of them", twice=twice))
    return result


def _wrong_kind(content: Any) -> Problem | None:
    if not isinstance(content, dict) or content.get("format") != FORMAT:
        return Problem("format", say("this is not a Korbent project file"))
    version = content.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        return Problem("version", say("{version!r} is not a file version", version=version))
    if version > VERSION:
        return Problem(
            "version",
            say(
                "the file is of version {version}; this Korbent reads up to version {version_2}: use a newer Korbent",
                version=version,
                version_2=VERSION,
            ),
        )
    if not isinstance(content.get("project"), dict):
        return Problem("project", say("the file has no project in it"))
    return None


def problems_of(error: ValidationError, raw: Any = None) -> list[Problem]:
    """All problems of a validation error, with places that name rows by their name.

    With the ``raw`` data, names that lead nowhere are listed even when there are other errors.
    """
    problems: list[Problem] = []
    for item in error.errors():
        cause = item.get("ctx", {}).get("error")
        if isinstance(cause, InconsistentError):
            problems.extend(cause.problems)
        else:
            problems.append(Problem(_place(item["loc"], raw), _sentence(item)))
    if raw is not None:
        try:
            found = list(inconsistencies(_shaped(raw)))
        except (TypeError, AttributeError):  # too broken to look across: the errors above say where
            found = []
        problems.extend(p for p in found if p not in problems)
    return problems


def _sentence(item: Any) -> str:
    message: str = item["msg"].removeprefix("Value error, ")
    given = item.get("input")
    if item["type"] == "missing":
        return say("is missing")
    if item["type"] == "extra_forbidden":
        return say("is not known here; remove it or correct its name")
    if isinstance(given, (int, float, str)) and len(str(given)) < 60:
        return say(
            "{message}{message_2}, got {given!r}", message=message[0].lower(), message_2=message[1:], given=given
        )
    return message[0].lower() + message[1:]


def _place(location: tuple[int | str, ...], raw: Any) -> str:
    parts: list[str] = []
    here = raw
    for step in location:
        if isinstance(step, int):
            here = here[step] if isinstance(here, (list, tuple)) and step < len(here) else None
            name = here.get("name", here.get("number")) if isinstance(here, dict) else None
            label = f"[{name}]" if name is not None and parts and parts[-1] != "strata" else f"[{step + 1}]"
            parts[-1:] = [parts[-1] + label] if parts else [label]
        else:
            here = here.get(step) if isinstance(here, dict) else None
            parts.append(step)
    # a part of a project that is validated by itself has no place in it
    return ".".join(parts) or ("" if raw is None else "project")


class _Missing(SimpleNamespace):
    """Raw data read like a project: what is not there is None."""

    def __getattr__(self, name: str) -> Any:
        return None


_MAPPINGS = (
    "factors",
    "pedestals",
    "pins",
    "ranges",
    "loads",
    "imported",
    "overrides",
    "sources",
    "notes",
    "expressions",
    "over_level",
    "unit_overrides",
)


def _shaped(raw: Any, key: str = "") -> Any:
    if isinstance(raw, dict):
        shaped = {k: _shaped(v, k) for k, v in raw.items()}
        if key in _MAPPINGS:
            return shaped
        if key == "" and "ground" not in shaped:
            shaped["ground"] = _Missing()
        if key == "" and "actions" not in shaped:
            shaped["actions"] = _Missing()
        return _Missing(**{k: v for k, v in shaped.items() if k.isidentifier()})
    if isinstance(raw, list):
        return tuple(_shaped(v, key + "[]") for v in raw)
    return raw
