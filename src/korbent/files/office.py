"""What an office keeps for its projects: templates to begin with, and sets of combinations."""

import json
import re
from collections.abc import Sequence
from pathlib import Path

from pydantic import ValidationError

from korbent.core.model import Actions, Combination, LoadCase, Project, Title
from korbent.files.atomic import write_whole
from korbent.files.folders import state_folder
from korbent.files.older import keyed
from korbent.files.project_file import ProjectFileError, load, save
from korbent.words import say


class OfficeError(Exception):
    """Something that cannot be kept or used: why."""


def _file_name(name: str) -> str:
    plain = re.sub(r"[^\w\- ]+", "", name).strip()
    if not plain:
        raise OfficeError(say("'{name}' is no name: use letters and digits", name=name))
    return plain[:60]


# ---------------------------------------------------------------- templates


def template_of(project: Project) -> Project:
    """What of a project is worth keeping for the next one: settings, units, standards, soils, cases, combinations,
    types.

    Boreholes, columns, pads, area loads and steps belong to one site, the project's name and number to one job.
    """
    title = project.title
    actions = Actions(
        cases=tuple(c.replaced(stated_V=None, stated_Hx=None, stated_Hy=None) for c in project.actions.cases),
        combinations=everywhere(project.actions.combinations),
        rules=project.actions.rules,
    )
    return Project(
        title=Title(office=title.office, author=title.author, checker=title.checker),
        units=project.units,
        unit_overrides=project.unit_overrides,
        quantities=project.quantities,
        standards=project.standards,
        settings=project.settings,
        ground=project.ground.replaced(boreholes=(), water=None),
        actions=actions,
        types=project.types,
        sheet_sets=project.sheet_sets,
    )


def everywhere(combinations: Sequence[Combination]) -> tuple[Combination, ...]:
    """Those that are looked at for all bases: what is for some of a site belongs to that site."""
    return tuple(c for c in combinations if not c.only)


def keep_template(project: Project, name: str) -> Path:
    """Keeps a template under a name; one of the same name is replaced.

    Raises:
        OfficeError: when the name is no name, or expressions reach into what a template does not keep.
        OSError: when it cannot be written.
    """
    path = state_folder() / "templates" / f"{_file_name(name)}.korbent"
    try:
        template = template_of(project)
    except ValidationError as error:
        raise OfficeError(say("the project cannot be a template: {errors}", errors=error.errors()[0]["msg"])) from None
    path.parent.mkdir(parents=True, exist_ok=True)
    save(template, path)
    return path


def templates() -> dict[str, Path]:
    """The templates by name."""
    folder = state_folder() / "templates"
    return {p.stem: p for p in sorted(folder.glob("*.korbent"))} if folder.is_dir() else {}


def from_template(path: Path) -> Project:
    """A new project from a template.

    Raises:
        OfficeError: when the template can no longer be read.
    """
    try:
        return load(path)
    except ProjectFileError as error:
        raise OfficeError(str(error).splitlines()[0]) from None


# ---------------------------------------------------------------- sets of combinations


def _sets_file() -> Path:
    return state_folder() / "combination-sets.json"


def _kept() -> dict[str, dict[str, object]]:
    try:
        found = json.loads(_sets_file().read_text())
    except (OSError, ValueError):
        return {}
    return keyed(found) if isinstance(found, dict) else {}


def set_names() -> tuple[str, ...]:
    """The names of the office's sets."""
    return tuple(sorted(_kept()))


def keep_set(actions: Actions, name: str) -> None:
    """Keeps all combinations of a project as a set, with the natures of the cases they use.

    Raises:
        OfficeError: when there is nothing to keep, or the name is no name.
        OSError: when it cannot be written.
    """
    if not actions.combinations:
        raise OfficeError(say("there is no combination to keep"))
    kept = _kept()
    kept[_file_name(name)] = {
        "cases": {c.name: [c.nature, c.category] for c in actions.cases},
        "rows": [
            c.model_dump(mode="json", exclude={"number", "notes", "expressions", "origin", "origin_name", "edited"})
            for c in everywhere(actions.combinations)
        ],
    }
    path = _sets_file()
    path.parent.mkdir(parents=True, exist_ok=True)
    write_whole(path, json.dumps(kept, indent=1).encode())


def combinations_of(name: str, cases: Sequence[LoadCase]) -> list[Combination]:
    """The rows of a set for the cases of a project: by name, else the one case of the same nature and category.

    Raises:
        OfficeError: naming the cases of the set that have no counterpart.
    """
    kept = _kept().get(name)
    if kept is None:
        raise OfficeError(say("there is no set '{name}' any more", name=name))
    names = {c.name for c in cases}
    to: dict[str, str] = {}
    lost = []
    try:
        wanted = {str(k): (str(v[0]), str(v[1])) for k, v in kept["cases"].items()}  # type: ignore[attr-defined]
        rows = list(kept["rows"])  # type: ignore[call-overload]
        used = {case for row in rows for case, factor in row["factors"].items() if factor}
        for case, (nature, category) in wanted.items():
            alike = [c.name for c in cases if c.nature == nature and c.name not in wanted]
            alike = [c.name for c in cases if c.name in alike and c.category == category] or alike
            if case in names:
                to[case] = case
            elif len(alike) == 1:
                to[case] = alike[0]
            elif case in used:
                lost.append(f"{case} ({nature})")
        if lost:
            raise OfficeError(
                say(
                    "the set '{name}' has cases that this project lacks: {lost}; add them under Load cases first",
                    name=name,
                    lost=", ".join(lost),
                )
            )
        return [
            Combination(
                **row | {"number": i, "factors": {to[c]: f for c, f in row["factors"].items() if c in to}},
                origin=say("office set {name}", name=name),
            )
            for i, row in enumerate(rows, 1)
        ]
    except (KeyError, TypeError, AttributeError, ValidationError) as error:
        raise OfficeError(
            say("the set '{name}' is damaged ({name_2}); keep it again", name=name, name_2=type(error).__name__)
        ) from None


# ---------------------------------------------------------------- the title block

LOGOS = (".svg", ".png")
LARGEST_LOGO = 5_000_000
"""Bytes."""


def logo_file() -> Path | None:
    """The logo of this office, where it has one."""
    return next((p for kind in LOGOS if (p := state_folder() / f"logo{kind}").is_file()), None)


def keep_logo(path: Path | None) -> None:
    """Keeps a copy of a logo for all projects; None takes it away.

    Raises:
        OfficeError: when it is no SVG or PNG.
        OSError: when it cannot be read or written.
    """
    if path is not None:
        kind, data = path.suffix.lower(), path.read_bytes()
        is_one = data[:8] == b"\x89PNG\r\n\x1a\n" if kind == ".png" else b"<svg" in data[:4096]
        if kind not in LOGOS or not is_one or len(data) > LARGEST_LOGO:
            raise OfficeError(
                say(
                    "{path} is no logo: an SVG or PNG file of at most {largest_logo} MB",
                    path=path.name,
                    largest_logo=LARGEST_LOGO // 1_000_000,
                )
            )
        state_folder().mkdir(parents=True, exist_ok=True)
        for other in LOGOS:
            if other != kind:
                (state_folder() / f"logo{other}").unlink(missing_ok=True)
        write_whole(state_folder() / f"logo{kind}", data)
        return
    for kind in LOGOS:
        (state_folder() / f"logo{kind}").unlink(missing_ok=True)


def _block_file() -> Path:
    return state_folder() / "title-block.json"


def title_block() -> dict[str, str]:
    """What this office puts into every title block: its name, and the names of its layers by ours."""
    try:
        found = json.loads(_block_file().read_text())
    except (OSError, ValueError):
        return {}
    return {str(k): str(v) for k, v in found.items()} if isinstance(found, dict) else {}


def keep_title_block(values: dict[str, str]) -> None:
    """Keeps it for all projects.

    Raises:
        OSError: when it cannot be written.
    """
    _block_file().parent.mkdir(parents=True, exist_ok=True)
    write_whole(_block_file(), json.dumps(values, indent=1, ensure_ascii=False).encode())
