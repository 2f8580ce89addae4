"""What worker processes do: slow work on a project, told how far it is, left off when asked.

Each takes what can travel: a project, names and numbers; and ``told`` and ``stop``, which it need not use.
"""

from collections.abc import Callable
from pathlib import Path
from typing import Any, Literal

from korbent.core.model import Project

Side = Literal["lower", "upper"]
Told = Callable[..., None]
Stop = Callable[[], bool]


def report(project: Project, path: Path, told: Told, stop: Stop) -> tuple[int, str]:
    """(pages, '' or why it could not be written) of the report written to a file."""
    from korbent.sheets.report import write_report

    try:
        return write_report(project, path), ""
    except OSError as error:
        return 0, f"{error.strerror or error}"


def sheet(project: Project, chosen: Any, key: str, before: Project | None, told: Told, stop: Stop) -> Any:
    """One sheet of a set as it will print (see korbent.sheets.preview)."""
    from korbent.sheets.preview import previewed

    return previewed(project, chosen, key, before)


def sheets(
    project: Project,
    chosen: Any,
    folder: Path,
    formats: tuple[str, ...],
    before: Project | None,
    told: Told,
    stop: Stop,
) -> tuple[list[Path], str]:
    """(the files of a set that were written, '' or why one could not be)."""
    from korbent.sheets.issue import write_set

    try:
        return write_set(project, chosen, folder, formats, before, told, stop), ""
    except OSError as error:
        return [], f"{error.strerror or error}: {error.filename or folder}"


def base_report(project: Project, base: str, path: Path, told: Told, stop: Stop) -> tuple[int, str]:
    """(pages, '' or why it could not be written) of the calculation of one base."""
    from korbent.sheets.report import write_base

    try:
        return write_base(project, base, path), ""
    except OSError as error:
        return 0, f"{error.strerror or error}"


def changes(before: Project, project: Project, told: Told, stop: Stop) -> Any:
    """What has changed between two states."""
    from korbent.core.explain.changes import changes as found

    return found(before, project)


def strip(project: Project, pad: str, drainage: str, taken: Any, situation: str, told: Told, stop: Stop) -> Any:
    """(the strip that a base is looked at as, its exact pressure where there is one); or why there is none."""
    from korbent.core.bearing.as_strip import as_strip, exact_of

    found = as_strip(project, project.pad(pad), drainage, taken, situation)
    return found if isinstance(found, str) else (found, exact_of(found))


def strips(project: Project, pad: str, drainage: str, taken: Any, told: Told, stop: Stop) -> Any:
    """(name, the strip that a base is looked at as) of every situation; or why there is none."""
    from korbent.core.bearing.as_strip import as_strips

    return as_strips(project, project.pad(pad), drainage, taken)


def bare_strip(strip: Any, told: Told, stop: Stop) -> Any:
    """What a bare strip bears exactly, below a rough base, a smooth one and its own."""
    from korbent.core.quick.strip import exactly

    return {r: exactly(strip, r) for r in {1.0, 0.0, strip.roughness}}


def bound(section: Any, side: Side, most: int, told: Told, stop: Stop) -> Any:
    """(a bound of the pressure of a strip, kPa, and what is drawn of it); or why there is none."""
    from korbent.core.plasticity.bounds import bound as best
    from korbent.drawing.yielding import shown

    try:
        found = best(section, side, most, stop=stop)
        return found.pressure, shown(found, section)
    except ValueError as error:
        return str(error)


def ray(section: Any, load: Any, side: Side, most: int, told: Told, stop: Stop) -> Any:
    """(V, H, M at a bound along a ray, the motion of the base by the upper one); or why there is none."""
    from korbent.core.plasticity.bounds import bound as best
    from korbent.core.plasticity.envelope import along, carried

    try:
        found = best(along(section, load), side, most, stop=stop)
        return carried(load, found.factor), found.motion
    except ValueError as error:
        return str(error)


def collapse(
    base: Any, water: float, most: int, pressures: tuple[float, ...], few: bool, told: Told, stop: Stop
) -> Any:
    """(load against settlement up to collapse, what is drawn of the ground at each point); or why there is no curve."""
    from korbent.core.explain.collapse import seen
    from korbent.core.plasticity.path import ADVANCES, FEW_ADVANCES, curve
    from korbent.drawing.yielding import shown_of_curve

    try:
        found = curve(base, most, pressures, stop=stop, advances=FEW_ADVANCES if few else ADVANCES)
        line = seen(found, water)
        return line, shown_of_curve(found, [p.yields for p in line.points], base.section)
    except ValueError as error:
        return str(error)


def proposed(project: Project, objective: Any, by_type: bool, told: Told, stop: Stop) -> Any:
    """(proposals, types against cost) for the whole plan; what was found so far when it is left off."""
    from korbent.core.sizing.propose import proposals, types_against_cost

    found = proposals(project, objective, by_type, told, stop)
    return found, types_against_cost(project, found, objective)


def quick(start: Any, told: Told, stop: Stop) -> Any:
    """The project of a quick start with the size and bars proposed for its base; or why there is none."""
    from pydantic import ValidationError

    from korbent.files.project_file import problems_of

    try:
        return start.proposed()
    except ValidationError as error:
        return "; ".join(p.message for p in problems_of(error))
    except ValueError as error:
        return str(error)


def ground_load(load: Any, told: Told, stop: Stop) -> Any:
    """(the project of a load on layers, what it settles); or why it cannot be done."""
    from pydantic import ValidationError

    from korbent.core.quick.ground_load import settled
    from korbent.files.project_file import problems_of

    try:
        return load.project(), settled(load)
    except ValidationError as error:
        return "; ".join(p.message for p in problems_of(error))
    except ValueError as error:
        return str(error)


def glance(path: Path, told: Told, stop: Stop) -> Any:
    """Of a project file what a card shows of it: (title, how many bases, worst ratio, outlines in the plan with their
    ratios); None where it cannot be read."""
    from korbent.core.evaluate import evaluate
    from korbent.drawing.plan import outline
    from korbent.files.project_file import ProjectFileError, load

    try:
        project = load(path)
    except (OSError, ProjectFileError):
        return None
    results = evaluate(project)
    bases = [
        (outline(pad, project.load_point(pad.load_point)), results.pad(pad.name).worst.ratio) for pad in project.pads
    ]
    ratios = [r for _, r in bases if r is not None]
    return project.title.project, len(bases), max(ratios, default=None), tuple(bases)


def sizes(project: Project, pad: str, up: str, every: int, told: Told, stop: Stop) -> Any:
    """The map of sizes of a base, of every so many-eth size."""
    from korbent.core.sizing.size_map import size_map

    return size_map(project, project.pad(pad), up, every, stop)


def added(project: Project, pad: str, told: Told, stop: Stop) -> Any:
    """Regions of added bars for a raft; or why there are none."""
    from korbent.core.rafts.added import proposed_added

    try:
        return proposed_added(project, project.pad(pad))
    except ValueError as error:
        return str(error)


def curve(project: Project, pad: str, told: Told, stop: Stop) -> Any:
    """Settlement against load of a raft."""
    from korbent.core.explain.raft_curve import raft_curve

    return raft_curve(project, project.pad(pad))


def raft_day(project: Project, pad: str, name: str, day: float, told: Told, stop: Stop) -> Any:
    """A field of a raft at a day; or why there is none."""
    from korbent.core.explain.raft import raft_field_at

    return raft_field_at(project, project.pad(pad), name, day)


def kinds(project: Project, columns: tuple[str, ...], objective: Any, told: Told, stop: Stop) -> Any:
    """The kinds of foundation for some columns, each told as it comes; or why they cannot be compared."""
    from korbent.core.sizing.kinds import options

    try:
        return options(project, columns, objective, told, stop)
    except ValueError as error:
        return str(error)


def bars(project: Project, pad: str, direction: str, every: bool, told: Told, stop: Stop) -> Any:
    """Which bars would do for a base, or for all that are alike."""
    from korbent.core.concrete.choose import alike, bar_table

    own = project.pad(pad)
    return bar_table(project, own, direction, alike(project, own) if every else (own,))


def reserve(project: Project, pad: str, case: str, told: Told, stop: Stop) -> Any:
    """The reserve of a base against more load."""
    from korbent.core.sizing.reserve import reserves

    return reserves(project, project.pad(pad), case)


def settled(project: Project, pad: str, told: Told, stop: Stop) -> Any:
    """(the settlement of all over time, and where there are drains that of one base without them)."""
    from korbent.core.settlement.history import compute, without_drains

    found = compute(project, told, stop)
    if not project.actions.drains:
        return found, None
    known = any(p.name == pad for p in project.pads)
    return found, compute(without_drains(project), stop=stop).pad(pad) if known else None


def plates(project: Project, names: tuple[str, ...], told: Told, stop: Stop) -> Any:
    """By name the checks and the plates of rafts."""
    from korbent.core.evaluate.slow import computed

    return {name: computed(project, name) for name in names}


def effects(project: Project, pad: str, told: Told, stop: Stop) -> Any:
    """What one increment of each dimension of a raft does, its plate solved for each."""
    from korbent.core.evaluate.effects import slow_effects

    return slow_effects(project, project.pad(pad), stop)


def pedestal(project: Project, pad: str, told: Told, stop: Stop) -> Any:
    """(the least pedestal of a base that holds its checks; None where none does,)."""
    from korbent.core.concrete.pedestal_sizes import least_pedestal

    return (least_pedestal(project, project.pad(pad), stop),)


def deciding(project: Project, pad: str, check: str, told: Told, stop: Stop) -> Any:
    """Which settings decide a check of a base; none where it has no such check."""
    from korbent.core.explain.deciding import Deciding
    from korbent.core.explain.deciding import deciding as found

    try:
        return found(project, project.pad(pad), check, stop)
    except KeyError:
        return Deciding((), ())


def figures(projects: tuple[Project, ...], told: Told, stop: Stop) -> Any:
    """What the foundations of some projects come to, each told as it comes with its place."""
    from korbent.core.sizing.figures import figures_of

    found = []
    for place, project in enumerate(projects):
        if stop():
            break
        found.append(figures_of(project))
        told(place, found[-1])
    return tuple(found)


def echo(project: Project, value: Any, told: Told, stop: Stop) -> Any:
    """The value again, after as many steps as it counts, each told: to try the road."""
    import time

    for step in range(int(value)):
        told(step + 1, int(value))
        if stop():
            return step
        time.sleep(0.02)
    return value


JOBS: dict[str, Callable[..., Any]] = {
    job.__name__: job
    for job in (
        report,
        sheet,
        sheets,
        base_report,
        strip,
        strips,
        bare_strip,
        bound,
        ray,
        collapse,
        changes,
        proposed,
        sizes,
        added,
        curve,
        raft_day,
        kinds,
        bars,
        reserve,
        settled,
        plates,
        effects,
        pedestal,
        deciding,
        figures,
        quick,
        ground_load,
        glance,
        echo,
    )
}
