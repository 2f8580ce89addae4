"""Words that several parts of a calculation use: values with units, settings, ratios."""

from typing import Any

from korbent.core.checks import CheckResult
from korbent.core.model import Project, Settings, note_on
from korbent.core.model.frozen import unit_of
from korbent.core.model.labels import label
from korbent.core.model.settings import CHOICES
from korbent.core.units import Showing, show, shown_unit
from korbent.words import say


def ratio_words(check: CheckResult) -> str:
    """The ratio with two decimals, a dash without one."""
    return "–" if check.ratio is None else f"{check.ratio:.2f}"


def quantity(value: float | None, unit: str, units: Showing) -> str:
    """A value in the shown unit, without it."""
    return "–" if value is None else show(value, unit, units)


def setting_words(name: str, value: Any, units: Showing) -> str:
    """A setting's value as it is read."""
    unit = unit_of(Settings, name)
    if value is None:
        return say("none")
    if isinstance(value, bool):
        return label("yes" if value else "no")
    if isinstance(value, float):
        return f"{show(value, unit, units)} {shown_unit(unit, units)}".strip()
    if isinstance(value, tuple):
        return say("{count} rows", count=len(value)) if value else say("none")
    return label(value) if name in CHOICES else str(value)


def differing(project: Project) -> list[tuple[str, str, str, str]]:
    """(title, value, default, the note that says why) of the settings of a project that differ from the default."""
    found = []
    for name, field in Settings.model_fields.items():
        value = getattr(project.settings, name)
        default = field.get_default(call_default_factory=True)
        if value != default:
            found.append(
                (
                    str(field.title),
                    setting_words(name, value, project.showing),
                    setting_words(name, default, project.showing),
                    note_on(project, ("settings", name)),
                )
            )
    return found


def own_settings(project: Project, overrides: Any) -> str:
    """Overrides of a base or type in a line."""
    return "; ".join(
        f"{Settings.model_fields[n].title}: {setting_words(n, v, project.showing)}" for n, v in overrides.items()
    )
