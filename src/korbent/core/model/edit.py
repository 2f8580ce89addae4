"""The one way to change a project: validated, sharing all that stays."""

from typing import Any

from korbent.core.model.base import Frozen
from korbent.core.model.project import Project

Step = str | int


def edited(project: Project, path: tuple[Step, ...], value: Any) -> Project:
    """A new project with the value at ``path`` changed.

    A path steps through field names, and through rows by their name, number or position:
    ``("pads", "P7", "width")``. A mapping entry set to None is removed.

    Raises:
        KeyError: when the path leads nowhere.
        pydantic.ValidationError: when the value is not valid there.
    """
    return _changed(project, path, value)  # type: ignore[no-any-return]


def value_at(project: Project, path: tuple[Step, ...]) -> Any:
    """What stands at the path."""
    here: Any = project
    for step in path:
        if here is None:
            return None
        here = _into(here, step)
    return here


def _into(here: Any, step: Step) -> Any:
    if isinstance(here, Frozen):
        if not isinstance(step, str) or step not in type(here).model_fields:
            raise KeyError(step)
        return getattr(here, step)
    if isinstance(here, tuple):
        return here[_position(here, step)]
    return here.get(step)


def _position(rows: tuple[Any, ...], step: Step) -> int:
    for i, row in enumerate(rows):
        if step in (getattr(row, "name", None), getattr(row, "number", None)):
            return i
    if isinstance(step, int) and 0 <= step < len(rows):
        return step
    raise KeyError(step)


def _changed(here: Any, path: tuple[Step, ...], value: Any) -> Any:
    if not path:
        return value
    step, rest = path[0], path[1:]
    if isinstance(here, tuple):
        i = _position(here, step)
        return (*here[:i], _changed(here[i], rest, value), *here[i + 1 :])
    if isinstance(here, Frozen):
        if not isinstance(step, str):
            raise KeyError(step)
        return here.replaced(**{step: _changed(_into(here, step), rest, value)})
    new = dict(here)
    present = here.get(step)
    changed = _changed({} if present is None and rest else present, rest, value)
    if changed is None:
        new.pop(step, None)
    else:
        new[str(step)] = changed
    return new


def renamed(project: Project, path: tuple[Step, ...], name: str) -> Project:
    """A new project in which the soil, load case, column or type at ``path`` has another name, everywhere.

    Raises:
        KeyError: when the path leads nowhere.
        pydantic.ValidationError: when the name is empty or taken.
    """
    old = value_at(project, path).name
    if name == old:
        return project
    ground, actions, types, pads = project.ground, project.actions, project.types, project.pads
    match path[:2]:
        case ("ground", "soils"):
            soils = _changed(ground.soils, (path[2], "name"), name)
            holes = tuple(
                h.replaced(strata=tuple(s.replaced(soil=name) if s.soil == old else s for s in h.strata))
                for h in ground.boreholes
            )
            ground = ground.replaced(soils=soils, boreholes=holes)
        case ("actions", "cases"):
            actions = actions.replaced(
                cases=_changed(actions.cases, (path[2], "name"), name),
                combinations=tuple(
                    c.replaced(factors=_rekeyed(c.factors, old, name)) for c in actions.combinations
                ),
                load_points=tuple(
                    p.replaced(loads=_rekeyed(p.loads, old, name)) for p in actions.load_points
                ),
            )
        case ("actions", "load_points"):
            actions = actions.replaced(load_points=_changed(actions.load_points, (path[2], "name"), name))
            pads = tuple(p.replaced(load_point=name) if p.load_point == old else p for p in pads)
        case ("types", _):
            types = _changed(types, (path[1], "name"), name)
            pads = tuple(p.replaced(type=name) if p.type == old else p for p in pads)
        case _:
            return edited(project, (*path, "name"), name)
    return project.replaced(ground=ground, actions=actions, types=types, pads=pads)


def _rekeyed(mapping: Any, old: str, new: str) -> dict[str, Any]:
    return {new if key == old else key: value for key, value in mapping.items()}
