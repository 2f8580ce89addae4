"""The results of a project as they are shown: by foundation and check, and the worst of them."""

from dataclasses import dataclass, field
from functools import cached_property

from korbent.core.checks import (
    SEVERITY,
    Check,
    CheckResult,
    State,
)
from korbent.core.model.project import Project
from korbent.words import say


@dataclass(frozen=True)
class PadResult:
    """All checks of one pad."""

    name: str
    checks: tuple[CheckResult, ...]

    def check(self, name: str) -> CheckResult:
        """One check by its id."""
        return next(c for c in self.checks if c.check.id == name)

    @cached_property
    def worst(self) -> CheckResult:
        """The check in the worst state, then with the greatest ratio."""
        return worst_of(self.checks)

    def worst_in(self, group: str) -> CheckResult | None:
        """That of one group of checks; None where it has none."""
        return self._by_group.get(group)

    @cached_property
    def _by_group(self) -> dict[str, CheckResult]:
        groups: dict[str, list[CheckResult]] = {}
        for check in self.checks:
            groups.setdefault(check.check.group, []).append(check)
        return {group: worst_of(tuple(some)) for group, some in groups.items()}


def worst_of(checks: tuple[CheckResult, ...]) -> CheckResult:
    """Unstable before failing; otherwise the greatest ratio; what cannot be done only when nothing has a ratio."""
    return max(checks, key=_rank)


def _rank(result: CheckResult) -> tuple[float, float]:
    if result.state is State.UNSTABLE:
        return (3.0, 0.0)
    if result.state is State.FAILS and result.ratio is None:
        return (2.0, 0.0)
    return (1.0, result.ratio) if result.ratio is not None else (0.0, float(SEVERITY[result.state]))


@dataclass(frozen=True)
class Results:
    """Results of a project. ``project`` is the one they belong to."""

    project: Project
    pads: tuple[PadResult, ...]
    undesigned: tuple[str, ...] = field(default=())
    """Columns and walls without a foundation."""
    marks: tuple[CheckResult, ...] = field(default=())
    """The settlement of each mark."""

    def pad(self, name: str) -> PadResult:
        """The result of one pad.

        Raises:
            KeyError: when there is none of that name.
        """
        return self._by_name[name]

    @cached_property
    def _by_name(self) -> dict[str, PadResult]:
        return {p.name: p for p in reversed(self.pads)}

    @cached_property
    def all_checks(self) -> tuple[CheckResult, ...]:
        """The checks of all pads, then those of marks, then one line for each column without a foundation."""
        missing_ones = tuple(
            CheckResult(name, NOT_DESIGNED, State.NOT_DESIGNED, message=say("{name} has no foundation yet", name=name))
            for name in self.undesigned
        )
        return tuple(c for p in self.pads for c in p.checks) + self.marks + missing_ones

    @property
    def holds(self) -> bool:
        """Every check of every foundation holds or is accepted, and no column is left over."""
        checks = self.all_checks
        return bool(checks) and all(c.state.is_good for c in checks)

    def worst(self, group: str | None = None) -> CheckResult | None:
        """The worst check of a group, or of all."""
        return self._worst.get(group)

    @cached_property
    def _worst(self) -> dict[str | None, CheckResult]:
        """By group, and of all under None: asked for many times while the window is painted."""
        groups: dict[str | None, list[CheckResult]] = {}
        for pad in self.pads:
            # kept with the result of a base that an edit leaves as it is
            for group, check in pad._by_group.items():
                groups.setdefault(group, []).append(check)
        found = {group: worst_of(tuple(checks)) for group, checks in groups.items()}
        if found:
            found[None] = worst_of(tuple(found.values()))
        elif self.marks:
            found[None] = worst_of(self.marks)
        return found


NOT_DESIGNED = Check("foundation", say("Foundation"), "bearing", "", "")
