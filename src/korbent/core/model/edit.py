"""The one way to change a project: validated, sharing all that stays."""

import re
from typing import Any

from korbent.core.model.actions import Actions
from korbent.core.model.edit_paths import Path, host, into, key_of, position, value_at
from korbent.core.model.expressions import evaluated
from korbent.core.model.frozen import Expression, Frozen
from korbent.core.model.project import Project


def edited(project: Project, path: Path, value: Any) -> Project:
    """A new project with the value at ``path`` changed.

    A path steps through field names, and through rows by their name, number or position:
    ``("pads", "P7", "width")``. A mapping entry set to None is removed.

    Raises:
        KeyError: when the path leads nowhere.
        pydantic.ValidationError: when the value is not valid there.
    """
    return _changed(project, path, value)  # type: ignore[no-any-return]


def noted(project: Project, path: Path, note: str) -> Project:
    """A new project with a note on the value at ``path``; an empty one takes it away."""
    where, key = host(project, path)
    return edited(project, (*where, "notes", key), note.strip() or None)


def note_on(project: Project, path: Path) -> str:
    """The note on the value at ``path``, '' where there is none."""
    where, key = host(project, path)
    return str(value_at(project, where).notes.get(key, ""))


def expression_at(project: Project, path: Path) -> str:
    """The expression behind the value at ``path``, with its =, '' where there is none."""
    where, key = host(project, path)
    found = value_at(project, where).expressions.get(key)
    return found.text if found else ""


def expressed(project: Project, path: Path, text: str | None) -> Project:
    """A new project in which the value at ``path`` comes from an expression (None: no longer), all values up to date.

    Raises:
        KeyError: when the path leads nowhere.
        pydantic.ValidationError: when the expression has no value or one that is not valid there.
    """
    where, key = host(project, path)
    value = None if text is None else Expression(text="=" + text.strip().removeprefix("="), units=project.units)
    return recomputed(edited(project, (*where, "expressions", key), value))


def recomputed(project: Project) -> Project:
    """The project with the values of all expressions up to date; the same one when they are.

    Raises:
        pydantic.ValidationError: when a value is not valid at its place.
    """
    for path, value in evaluated(project, value_at).items():
        if value_at(project, path) != value:
            project = edited(project, path, value)
    return project


def _changed(here: Any, path: Path, value: Any) -> Any:
    if not path:
        return value
    step, rest = path[0], path[1:]
    if isinstance(here, tuple):
        i = position(here, step)
        return (*here[:i], _changed(here[i], rest, value), *here[i + 1 :])
    if isinstance(here, Frozen):
        if not isinstance(step, str):
            raise KeyError(step)
        return here.replaced(**{step: _changed(into(here, step), rest, value)})
    new = dict(here)
    present = here.get(step)
    changed = _changed({} if present is None and rest else present, rest, value)
    if changed is None:
        new.pop(step, None)
    else:
        new[str(step)] = changed
    return new


def _only_renamed(actions: Actions, old: str, name: str) -> Actions:
    """Combinations that are looked at for a base follow its name."""
    if not any(old in c.only for c in actions.combinations):
        return actions
    return actions.replaced(
        combinations=tuple(
            c.replaced(only=tuple(name if n == old else n for n in c.only)) if old in c.only else c
            for c in actions.combinations
        )
    )


def renamed(project: Project, path: Path, name: str) -> Project:
    """A new project in which the soil, load case, column or type at ``path`` has another name, everywhere.

    Raises:
        KeyError: when the path leads nowhere.
        pydantic.ValidationError: when the name is empty or taken.
    """
    old = value_at(project, path).name
    if name == old:
        return project
    match path[:2]:
        case ("ground", "soils"):
            return _soil_renamed(project, path[2], old, name)
        case ("actions", "cases"):
            return _case_renamed(project, path[2], old, name)
        case ("actions", "area_loads"):
            actions = project.actions
            actions = actions.replaced(
                area_loads=_changed(actions.area_loads, (path[2], "name"), name),
                steps=_in_construction(actions, old, name),
            )
            return project.replaced(actions=actions)
        case ("actions", "load_points"):
            return _column_renamed(project, path[2], old, name)
        case ("quantities", _):
            whole = _with_names(project, old, name)
            return whole.replaced(  # type: ignore[no-any-return]
                quantities=_changed(whole.quantities, (path[1], "name"), name)
            )
        case ("pads", _) if len(path) == 2:
            return _base_renamed(project, path[1], old, name)
        case ("types", _):
            pads = tuple(p.replaced(type=name) if p.type == old else p for p in project.pads)
            return project.replaced(types=_changed(project.types, (path[1], "name"), name), pads=pads)
    return edited(project, (*path, "name"), name)


def _soil_renamed(project: Project, at: str | int, old: str, name: str) -> Project:
    """Also in the strata, and where bases are founded on it."""
    ground = project.ground
    holes = tuple(
        h.replaced(strata=tuple(s.replaced(soil=name) if s.soil == old else s for s in h.strata))
        for h in ground.boreholes
    )
    ground = ground.replaced(soils=_changed(ground.soils, (at, "name"), name), boreholes=holes)
    return _refounded(project, old, name).replaced(ground=ground)


def _case_renamed(project: Project, at: str | int, old: str, name: str) -> Project:
    """Also in combinations, in the loads of columns and in construction steps."""
    actions = project.actions
    actions = actions.replaced(
        cases=_changed(actions.cases, (at, "name"), name),
        combinations=tuple(
            c.replaced(
                factors=_rekeyed(c.factors, old, name),
                notes=_rekeyed(c.notes, key_of(("factors", old)), key_of(("factors", name))),
                expressions=_rekeyed(c.expressions, key_of(("factors", old)), key_of(("factors", name))),
            )
            for c in actions.combinations
        ),
        load_points=tuple(
            p.replaced(
                loads=_rekeyed(p.loads, old, name),
                imported=_rekeyed(p.imported, old, name),
                notes=_redotted(p.notes, ("loads", old), ("loads", name)),
                expressions=_redotted(p.expressions, ("loads", old), ("loads", name)),
            )
            for p in actions.load_points
        ),
        steps=_in_construction(actions, old, name),
    )
    return project.replaced(actions=actions)


def _column_renamed(project: Project, at: str | int, old: str, name: str) -> Project:
    """Also of the bases under it, with their pedestals."""
    pads = tuple(p.replaced(load_point=name) if p.load_point == old else p for p in project.pads)
    pads = tuple(
        p.replaced(
            further=tuple(name if f == old else f for f in p.further),
            pedestals=_rekeyed(p.pedestals, old, name),
        )
        if old in p.further
        else p
        for p in pads
    )
    points = _changed(project.actions.load_points, (at, "name"), name)
    return project.replaced(actions=project.actions.replaced(load_points=points), pads=pads)


def _base_renamed(project: Project, at: str | int, old: str, name: str) -> Project:
    """Also in expressions, in combinations for it alone and of its straps."""
    whole = _with_names(project, old, name)
    return whole.replaced(  # type: ignore[no-any-return]
        pads=_changed(whole.pads, (at, "name"), name),
        actions=_only_renamed(whole.actions, old, name),
        straps=tuple(
            s.replaced(edge=name if s.edge == old else s.edge, inner=name if s.inner == old else s.inner)
            for s in project.straps
        ),
    )


def _rekeyed(mapping: Any, old: str, new: str) -> dict[str, Any]:
    return {new if key == old else key: value for key, value in mapping.items()}


def _refounded(project: Project, old: str, new: str) -> Project:
    """The project with the soil in which bases must stand called by its new name."""
    if project.settings.founding_unit == old:
        project = project.replaced(settings=project.settings.replaced(founding_unit=new))
    for kind in ("types", "pads"):
        rows = tuple(
            row.replaced(overrides={**row.overrides, "founding_unit": new})
            if row.overrides.get("founding_unit") == old
            else row
            for row in getattr(project, kind)
        )
        if any(a is not b for a, b in zip(rows, getattr(project, kind))):
            project = project.replaced(**{kind: rows})
    return project


def _redotted(mapping: Any, old: Path, new: Path) -> dict[str, Any]:
    """Keys below one path moved to another."""
    was, is_ = key_of(old) + ".", key_of(new) + "."
    return {is_ + key.removeprefix(was) if key.startswith(was) else key: v for key, v in mapping.items()}


def _in_construction(actions: Any, old: str, new: str) -> Any:
    return tuple(step.replaced(factors=_rekeyed(step.factors, old, new)) for step in actions.steps)


def _with_names(project: Project, old: str, new: str) -> Any:
    """The project, not validated as a whole yet, with a name exchanged in all expressions."""
    word = re.compile(rf"(?<![\w.]){re.escape(old)}(?!\w)")
    parts: dict[str, Any] = {}

    def swapped(row: Any) -> Any:
        if not row.expressions:
            return row
        return row.replaced(expressions={k: e.replaced(text=word.sub(new, e.text)) for k, e in row.expressions.items()})

    ground, actions = project.ground, project.actions
    parts["quantities"] = tuple(map(swapped, project.quantities))
    parts["pads"] = tuple(map(swapped, project.pads))
    parts["types"] = tuple(map(swapped, project.types))
    holes = tuple(
        swapped(h).replaced(
            **{part: tuple(map(swapped, getattr(h, part))) for part in ("strata", "tests", "oedometers")}
        )
        if any(r.expressions for part in ("strata", "tests", "oedometers") for r in getattr(h, part))
        else swapped(h)
        for h in ground.boreholes
    )
    parts["ground"] = swapped(ground).replaced(soils=tuple(map(swapped, ground.soils)), boreholes=holes)
    parts["actions"] = actions.replaced(
        **{
            p: tuple(map(swapped, getattr(actions, p)))
            for p in ("cases", "combinations", "load_points", "area_loads", "steps")
        }
    )
    return _Parts(project, parts)


class _Parts:
    """Parts of a project that only fit together after one more change."""

    def __init__(self, project: Project, parts: dict[str, Any]) -> None:
        self.project, self.parts = project, parts

    def __getattr__(self, name: str) -> Any:
        return self.parts.get(name, getattr(self.project, name))

    def replaced(self, **changes: Any) -> Project:
        return self.project.replaced(**self.parts | changes)
