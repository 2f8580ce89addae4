"""The command line.

Exit status 0: all checks hold or are accepted (for the other commands: done); 1: something fails, is unstable,
cannot be done or is not designed; 2: bad input or usage, with the message on stderr.
"""

import json
import os
import shutil
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Annotated, Any, NoReturn

import typer

from korbent import __version__
from korbent.core.checks import CHECKS, CheckResult, State
from korbent.core.evaluate import Results, evaluate
from korbent.core.explain.working import Working, working
from korbent.core.model import Project
from korbent.core.units import show
from korbent.demo import lindmere
from korbent.entry import COMMANDS, fault_told, has_display
from korbent.files.project_file import ProjectFileError, load, save
from korbent.files.results_json import as_json
from korbent.words import say

app = typer.Typer(
    add_completion=False,
    no_args_is_help=False,
    pretty_exceptions_enable=False,
    rich_markup_mode=None,
    help=say("Bearing, settlement, stability and concrete of shallow foundations. Without a command: the window."),
)

File = Annotated[Path, typer.Argument(help="a .korbent project file")]


def fail(message: str) -> NoReturn:
    """Ends with status 2."""
    typer.echo(message, err=True)
    raise typer.Exit(2)


def _load(path: Path) -> Project:
    try:
        return load(path)
    except ProjectFileError as error:
        fail(str(error))


@app.command()
def check(
    file: File,
    as_json_text: Annotated[bool, typer.Option("--json", help="print JSON instead of a table")] = False,
) -> None:
    """Check every foundation of a project."""
    results = evaluate(_load(file))
    if as_json_text:
        typer.echo(json.dumps(as_json(results), indent=1, ensure_ascii=False, allow_nan=False))
    else:
        for entry in results.all_checks:
            typer.echo(_row(entry, results.project))
        typer.echo(_verdict(results))
    raise typer.Exit(0 if results.holds else 1)


def _row(check: CheckResult, project: Project) -> str:
    ratio = f"{check.ratio:6.3f}" if check.ratio is not None else "     –"
    numbers = ""
    if check.demand is not None and check.capacity is not None:
        demand, capacity = (show(v, check.check.unit, "metric") for v in (check.demand, check.capacity))
        numbers = f"{demand} / {capacity} {check.check.unit}"
    elif check.demand is not None:
        numbers = f"{show(check.demand, check.check.unit, 'metric')} {check.check.unit}"
    message = check.message if check.state is not State.HOLDS else ""
    return (
        f"{check.foundation:6} {check.check.title:26} {ratio}  {check.state.word:20} {numbers:26} "
        f"{check.combination:10} {message}"
    ).rstrip()


def _verdict(results: Results) -> str:
    if results.holds:
        return say("All checks hold.")
    worst = results.worst()
    if not results.all_checks:
        return say("Nothing to check: the project has no column, no foundation and no settlement mark.")
    count = sum(not c.state.is_good for c in results.all_checks)
    text = say("{count} of {all_checks} do not hold.", count=count, all_checks=len(results.all_checks))
    return text + (
        say(" Worst: {foundation}, {title}.", foundation=worst.foundation, title=worst.check.title) if worst else ""
    )


@app.command()
def explain(
    file: File,
    foundation: Annotated[str, typer.Argument(help="name of a foundation, such as P7")],
    check: Annotated[str, typer.Argument(help="a check, such as punching")],
) -> None:
    """Print the working of one check: formula, numbers put in, value, unit, reference."""
    project = _load(file)
    names = [p.name for p in project.pads]
    if foundation not in names:
        fail(
            say(
                "there is no foundation '{foundation}'; the project has: {names}",
                foundation=foundation,
                names=", ".join(names) or "none",
            )
        )
    found = working(project, project.pad(foundation), _check_named(check))
    if isinstance(found, CheckResult):
        typer.echo(f"{found.check.title}: {found.state.word}: {found.message}")
    else:
        typer.echo(working_text(found))


def working_text(found: Working) -> str:
    """A working as text."""
    result = found.result
    head = f"{result.foundation}: {result.check.title} ({result.check.reference})"
    if result.combination:
        head += say(", combination {combination}", combination=result.combination)
    lines = [
        head,
        say("state: {state}", state=result.state.word) + (f" – {result.message}" if result.message else ""),
        "",
    ]
    lines += [line.text() for line in found.lines()]
    return "\n".join(lines)


def _check_named(text: str) -> str:
    wanted = text.strip().lower()
    for name, check in CHECKS.items():
        if wanted in (name, check.title.lower()):
            return name
    near = [name for name in CHECKS if name.startswith(wanted)]
    if len(near) == 1:
        return near[0]
    fail(say("there is no check '{text}'; known: {checks}", text=text, checks=", ".join(CHECKS)))


@app.command()
def report(
    file: File,
    out: Annotated[Path, typer.Option("--out", help="the PDF file to write")] = Path("report.pdf"),
    base: Annotated[str, typer.Option("--base", help="of one foundation only, with all its workings")] = "",
) -> None:
    """Print the calculation of the first set as a PDF."""
    from korbent.sheets.report import write_base, write_report

    project = _load(file)
    names = [p.name for p in project.pads]
    if base and base not in names:
        fail(
            say(
                "there is no foundation '{base}'; the project has: {names}", base=base, names=", ".join(names) or "none"
            )
        )
    try:
        pages = write_base(project, base, out) if base else write_report(project, out)
    except OSError as error:
        fail(say("{out}: the report was not written: {why}", out=out, why=error.strerror or error))
    typer.echo(say("{out}: {pages} pages", out=out, pages=pages))


@app.command()
def sheets(
    file: File,
    name: Annotated[str, typer.Option("--set", help="the set of sheets; without it the first one")] = "",
    out: Annotated[Path, typer.Option("--out", help="the folder to write to")] = Path("sheets"),
    formats: Annotated[
        str, typer.Option("--format", help="pdf, dxf, svg, docx, html, xlsx, csv; several with commas")
    ] = "pdf,dxf,xlsx",
    since: Annotated[
        Path | None, typer.Option("--since", help="an earlier file: what changed is marked and listed")
    ] = None,
) -> None:
    """Write a set of sheets: calculation, drawings, tables."""
    from korbent.sheets.catalogue import set_named
    from korbent.sheets.issue import formats_of, write_set

    project = _load(file)
    before = _load(since) if since is not None else None
    try:
        chosen, kinds = set_named(project, name), formats_of(formats)
    except (KeyError, ValueError) as error:
        fail(str(error.args[0]))
    try:
        written = write_set(project, chosen, out, kinds, before)
    except OSError as error:
        fail(
            say(
                "{filename}: the sheets were not written: {why}",
                filename=error.filename or out,
                why=error.strerror or error,
            )
        )
    for path in written:
        typer.echo(path)
    if not written:
        fail(say("nothing of the set '{chosen}' is written as {kinds}", chosen=chosen.name, kinds=", ".join(kinds)))


@app.command()
def compare(
    old: Annotated[Path, typer.Argument(help="the earlier .korbent file")],
    new: Annotated[Path, typer.Argument(help="the later one")],
    as_json_text: Annotated[bool, typer.Option("--json", help="print JSON instead of text")] = False,
) -> None:
    """Say what has changed between two files, base by base."""
    from korbent.core.explain.changes import changes
    from korbent.sheets.changes import changes_text, changes_values

    found = changes(_load(old), _load(new))
    if as_json_text:
        typer.echo(json.dumps(changes_values(found), indent=1, ensure_ascii=False, allow_nan=False))
    else:
        typer.echo(changes_text(found))


@app.command()
def schedule(
    file: File,
    out: Annotated[Path, typer.Option("--out", help="the CSV or XLSX file to write")] = Path("bars.xlsx"),
) -> None:
    """Write the bar schedule: of the project, and in a workbook also of each type."""
    from korbent.files.bar_schedule import write_schedule

    try:
        count = write_schedule(_load(file), out)
    except (OSError, ValueError) as error:
        fail(
            say(
                "{out}: the schedule was not written: {getattr}",
                out=out,
                getattr=getattr(error, "strerror", None) or error,
            )
        )
    typer.echo(say("{out}: {count} marks", out=out, count=count))


@app.command()
def settlement(
    file: File,
    out: Annotated[Path | None, typer.Option("--out", help="the CSV or XLSX file to write")] = None,
    degree: Annotated[float, typer.Option("--degree", help="a degree of consolidation, between 0 and 1")] = 0.9,
    point: Annotated[str, typer.Option("--point", help="a foundation or a mark; without it all of them")] = "",
    level: Annotated[
        float | None, typer.Option("--level", help="a level, m: the time until that degree is reached there")
    ] = None,
) -> None:
    """Settlement over time: in the end, by parts, and the days until a degree of consolidation is reached."""
    from korbent.core.settlement.over_time import points
    from korbent.files.settlement_tables import write_settlement

    if not 0.0 < degree < 1.0:
        fail(say("--degree {degree:g}: a degree lies between 0 and 1, such as 0.9", degree=degree))
    project = _load(file)
    _, known = points(project)
    if point and point not in [own.name for own in known]:
        fail(
            say(
                "there is no foundation or mark '{point}'; the project has: {own}",
                point=point,
                own=", ".join(own.name for own in known) or "none",
            )
        )
    for own in known:
        if point and own.name != point:
            continue
        if own.why:
            typer.echo(say("{own:8} cannot be done: {why}", own=own.name, why=own.why))
            continue
        days = own.time_to(degree) if level is None else own.time_at_level(degree, level)
        when = say("{days:.1f} days", days=days) if days < float("inf") else "never"
        several = own.crossings(degree) if level is None else ()
        more = (
            say(" (passed before: {value})", value=", ".join(f"{d:.1f}" for d in several[:-1]))
            if len(several) > 1
            else ""
        )
        where = "" if level is None else say(" at {level:+.2f} m", level=level)
        typer.echo(
            say(
                "{own:8} {final:8.2f} mm in the end: at once {final_immediate:.2f}, primary "
                "{final_primary:.2f}, creep {final_creep:.2f}; {degree:.0f} %{where}: {when}{more}",
                own=own.name,
                final=1000 * own.final,
                final_immediate=1000 * own.final_immediate,
                final_primary=1000 * (own.final_primary - own.final_immediate),
                final_creep=1000 * own.final_creep,
                degree=100 * degree,
                where=where,
                when=when,
                more=more,
            )
        )
    if out is not None:
        try:
            count = write_settlement(project, out)
        except (OSError, ValueError) as error:
            fail(
                say(
                    "{out}: the tables were not written: {getattr}",
                    out=out,
                    getattr=getattr(error, "strerror", None) or error,
                )
            )
        typer.echo(say("{out}: {count} points", out=out, count=count))


@app.command()
def strip(
    file: Annotated[
        Path | None, typer.Argument(help="a .korbent project file, with --base; without it a bare strip")
    ] = None,
    base: Annotated[str, typer.Option("--base", help="the foundation that is looked at as a strip")] = "",
    undrained: Annotated[bool, typer.Option("--undrained", help="with --base: undrained")] = False,
    load: Annotated[
        str, typer.Option("--load", help="with --base: central (V on B'), V (H and M held), all (growing together)")
    ] = "central",
    across: Annotated[str, typer.Option("--across", help="with --base: the cut: governing, x or y")] = "governing",
    underside: Annotated[
        str, typer.Option("--underside", help="with --base: rough, smooth or friction (of the sliding check)")
    ] = "rough",
    strengths: Annotated[str, typer.Option("--strengths", help="with --base: unfactored or design")] = "unfactored",
    psi: Annotated[
        float | None,
        typer.Option("--psi", help="with --base: angle of dilatancy, degrees (Davis); none: associated flow"),
    ] = None,
    curve: Annotated[
        str,
        typer.Option(
            "--curve", help="with --base: load against settlement instead: rigid strip, flexible strip or circle"
        ),
    ] = "",
    envelope: Annotated[
        str, typer.Option("--envelope", help="with --base: what is borne of two of V, H and M instead: V-M, V-H or H-M")
    ] = "",
    situations: Annotated[
        bool, typer.Option("--situations", help="with --base: every situation between bounds instead")
    ] = False,
    width: Annotated[float, typer.Option("--width", help="B of a bare strip, m")] = 1.0,
    c: Annotated[float, typer.Option("--c", help="cohesion, kPa")] = 0.0,
    phi: Annotated[float, typer.Option("--phi", help="friction angle, degrees")] = 0.0,
    gamma: Annotated[float, typer.Option("--gamma", help="unit weight, kN/m3")] = 0.0,
    q: Annotated[float, typer.Option("--q", help="surcharge beside the strip, kPa")] = 0.0,
    roughness: Annotated[
        float,
        typer.Option(
            "--roughness", help="share of c and tan φ that acts below the base: 1 rough, 0 smooth", min=0, max=1
        ),
    ] = 1.0,
    slope: Annotated[
        float, typer.Option("--slope", help="degrees by which the ground falls away beside a bare strip")
    ] = 0.0,
    triangles: Annotated[
        int, typer.Option("--triangles", help="of the finest mesh of a bound; 0: no bounds", min=0)
    ] = 1500,
    as_json_text: Annotated[bool, typer.Option("--json", help="print JSON instead of text")] = False,
) -> None:
    """What a strip bears: exact on uniform ground, bounds from below and above on any; envelopes and the curve to
    collapse of a base."""
    from korbent import api

    if (file is None) != (not base):
        fail(say("--base needs a project file") if file is None else say("name the foundation of the file with --base"))
    if file is None and (curve or envelope or situations):
        fail(say("--curve, --envelope and --situations need a project file and --base"))
    taken: dict[str, Any] = {"across": across, "underside": underside, "strengths": strengths, "psi": psi}
    way = "undrained" if undrained else "drained"
    text: Callable[[dict[str, Any]], str] = strip_text
    found: dict[str, Any]
    try:
        if file is None:
            found = dict(
                api.strip(
                    B=width,
                    c=c,
                    phi=phi,
                    gamma=gamma,
                    q=q,
                    roughness=roughness,
                    triangles=triangles,
                    slope=slope,
                )
            )
        elif situations:
            found = {
                "situations": api.strip_situations(_load(file), base, way, max(triangles, 200), load=load, **taken)
            }
            text = situations_text
        elif curve:
            found, text = (
                api.collapse(_load(file), base, way, curve, max(triangles, 200), load=load, **taken),
                curve_text,
            )
        elif envelope:
            found, text = (
                api.envelope(_load(file), base, envelope, way, max(triangles, 200), **taken),
                envelope_text,
            )
        else:
            found = api.strip_below(_load(file), base, way, triangles, load=load, **taken)
    except (KeyError, ValueError) as error:
        fail(str(error.args[0]))
    typer.echo(json.dumps(found, indent=1, ensure_ascii=False, allow_nan=False) if as_json_text else text(found))


def situations_text(found: dict[str, Any]) -> str:
    """Every situation between its bounds."""
    lines = [
        f"{say('combination'):24} {say('pressure'):>12} {say('from below'):>12} {say('from above'):>12} "
        f"{say('ratio'):>7}"
    ]
    for row in found["situations"]:
        if row["why"]:
            lines.append(f"{row['situation']:24} {row['why']}")
        else:
            values = " ".join(f"{row[name]:8.1f} kPa" for name in ("pressure", "lower", "upper"))
            lines.append(f"{row['situation']:24} {values} {row['ratio']:7.3f}")
    return "\n".join(lines)


def curve_text(found: dict[str, Any]) -> str:
    """The points of a curve, its collapse, and what is settled under the load of the situation."""
    tilts = any(p["tilt"] or p["slide"] for p in found["points"])
    lines = [
        str(found["said"]),
        f"{say('settlement'):>12} {say('pressure'):>12}" + f" {say('tilt'):>9} {say('slides'):>12}" * tilts,
    ]
    lines += [
        f"{1000 * p['settlement']:9.2f} mm {p['pressure']:8.1f} kPa"
        + f" {1000 * p['tilt']:7.2f} ‰ {1000 * p['slide']:9.2f} mm" * tilts
        for p in found["points"]
    ]
    settled = found["settlement"]
    under = f"{1000 * settled:.1f} mm" if settled is not None else say("beyond collapse")
    return "\n".join(
        [
            *lines,
            say(
                "collapse at {found:.1f} kPa; under {pressure:.1f} kPa (combination {situation}): {under}",
                found=found["limit"],
                pressure=found["pressure"],
                situation=found["situation"],
                under=under,
            ),
        ]
    )


def envelope_text(found: dict[str, Any]) -> str:
    """Both bounds along each ray."""
    lines = [
        str(found["said"]),
        say(
            "{value:>10} {value_2:>10} {value_3:>10}   from below;  from above, kN/m and kNm/m",
            value="V",
            value_2="H",
            value_3="M",
        ),
    ]
    for low, high in zip(found["lower"], found["upper"]):
        lines.append(" ".join(f"{v:10.1f}" for v in low) + "   " + " ".join(f"{v:10.1f}" for v in high))
    return "\n".join(lines)


def strip_text(found: dict[str, object]) -> str:
    """What is exact, what is bracketed, and the methods with how far they lie outside the bracket."""
    low, high = found["lower"], found["upper"]
    lines = [str(found["said"])] if "said" in found else []
    if isinstance(found["exact"], float):
        lines.append(say("exact                {found:10.2f} kPa", found=found["exact"]))
    if isinstance(low, float) and isinstance(high, float):
        middle = (low + high) / 2
        lines += [
            say("lower bound          {low:10.2f} kPa", low=low),
            say("upper bound          {high:10.2f} kPa", high=high),
            say(
                "middle               {middle:10.2f} kPa  ±{high:.1%}", middle=middle, high=(high - low) / (high + low)
            ),
        ]
        methods = found.get("methods")
        for name, value in methods.items() if isinstance(methods, dict) else ():
            outside = value / high - 1 if value > high else value / low - 1 if value < low else 0.0
            where = say("{outside:+.1%} outside", outside=outside) if outside else say("within the bracket")
            lines.append(f"{name:20} {value:10.2f} kPa  {where}")
    return "\n".join(lines) or say("there is no exact value: ask for bounds")


@app.command()
def example(
    out: Annotated[Path, typer.Option("--out", help="the folder to write to")] = Path("korbent-example"),
) -> None:
    """Write the demo: project file, results, report and pictures of the main views, without a window."""
    write_example(out)


def write_example(out: Path) -> None:
    """The full example into a folder."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from korbent.demo import DEMOS
    from korbent.files.atomic import write_whole
    from korbent.files.bar_schedule import write_schedule
    from korbent.sheets.catalogue import APPROVAL, SITE, set_named
    from korbent.sheets.issue import write_set
    from korbent.sheets.report import write_report

    project = lindmere()
    others = {name: make() for name, make in DEMOS.items() if name != "lindmere"}
    try:
        out.mkdir(parents=True, exist_ok=True)
        save(project, out / "lindmere.korbent")
        text = json.dumps(as_json(evaluate(project)), indent=1, ensure_ascii=False, allow_nan=False)
        write_whole(out / "results.json", (text + "\n").encode())
        write_report(project, out / "report.pdf")
        for name, other in others.items():
            save(other, out / f"{name}.korbent")
            write_report(other, out / f"{name}.pdf")
        for name, shown in {"lindmere": project, **others}.items():
            write_schedule(shown, out / f"{name}-bars.xlsx")
        sheets_of = write_set(project, set_named(project, SITE), out / "sheets", ("pdf", "dxf", "xlsx"))
        calculation_of = write_set(project, set_named(project, APPROVAL), out / "sheets", ("docx", "html"))
    except OSError as error:
        fail(f"{out}: {error.strerror or error}")
    from korbent.app.main import pictures

    written = ["lindmere.korbent", "results.json", "report.pdf"]
    written += [f"{name}.{kind}" for name in others for kind in ("korbent", "pdf")]
    written += [f"{name}-bars.xlsx" for name in ("lindmere", *others)]
    written += [f"sheets/{path.name}" for path in (*sheets_of, *calculation_of)]
    written += [path.name for path in pictures(project, out, pad="P11")]
    typer.echo(say("written to {resolve}: {written}", resolve=out.resolve(), written=", ".join(written)))


@app.command()
def verify(
    out: Annotated[Path | None, typer.Option("--out", help="write the table here, as Markdown")] = None,
    only: Annotated[
        str, typer.Option("--only", help="only cases whose name has this in it; no table without --out")
    ] = "",
) -> None:
    """Compare with reference cases, and write the table to docs/verification.md."""
    from korbent.verification import CASES, as_markdown, as_text, outcomes

    chosen = tuple(case for case in CASES if only.lower() in case.name.lower())
    if not chosen:
        typer.echo(say("no reference case has {only!r} in its name", only=only), err=True)
        raise typer.Exit(2)
    found = outcomes(chosen)
    typer.echo(as_text(found))
    if only and out is None:
        raise typer.Exit(0 if all(o.within for o in found) else 1)
    target = out or Path(__file__).resolve().parents[2] / "docs" / "verification.md"
    try:
        target.write_text(as_markdown(found), encoding="utf-8")
    except OSError as error:
        typer.echo(say("{target} was not written: {why}", target=target, why=error.strerror or error), err=True)
    raise typer.Exit(0 if all(o.within for o in found) else 1)


@app.command()
def demo() -> None:
    """Open the demo project; without a display, write the full example instead."""
    if not has_display():
        typer.echo(say("korbent: no display here, so the example is written instead of opening a window."))
        write_example(Path("korbent-example"))
        return
    _window(lindmere(), None)


def _command() -> Path:
    """What starts this program: the file beside the sources, else the command that was called."""
    own = Path(__file__).resolve().parents[2] / "korbent"
    called = shutil.which("korbent")
    return own if own.is_file() else Path(called or sys.argv[0]).resolve()


PROGRAMS = Path(".local") / "bin"


@app.command()
def install() -> None:
    """Put Korbent into the menus of this user: entry, icon, file type, manual page, completions, and the command
    korbent."""
    from korbent.desktop import data_home
    from korbent.desktop import install as put

    try:
        made = put(_command(), data_home(), Path.home() / PROGRAMS, lambda line: typer.echo(line, err=True))
    except OSError as error:
        fail(say("{filename}: not installed: {why}", filename=error.filename, why=error.strerror or error))
    for path in made:
        typer.echo(path)
    folder = str(Path.home() / PROGRAMS)
    if folder not in os.environ.get("PATH", "").split(os.pathsep):
        typer.echo(
            say("{folder} is not among the folders of commands (PATH) yet: a new login may be needed", folder=folder),
            err=True,
        )


@app.command()
def uninstall() -> None:
    """Take away what 'install' put into the menus; projects and settings stay."""
    from korbent.desktop import data_home
    from korbent.desktop import uninstall as take

    for path in take(data_home(), Path.home() / PROGRAMS, _command()):
        typer.echo(path)


@app.command(name="open", hidden=True)
def open_(file: Annotated[Path | None, typer.Argument()] = None) -> None:
    """Open the window, on a file or on a new project."""
    from korbent.demo.starter import starter

    if not has_display():
        fail(say("korbent: no display here. 'check', 'explain', 'report', 'example' and 'verify' work without one."))
    if file is None:
        _window(starter(), None)
    else:
        _window(_load(file), file)


def _window(project: Project, path: Path | None) -> None:
    from korbent.app.main import run

    raise typer.Exit(run(project, path))


def main(arguments: list[str] | None = None) -> None:
    """Entry point: a bare file name opens the window on it."""
    words = list(sys.argv[1:] if arguments is None else arguments)
    if words == ["--version"]:
        typer.echo(f"Korbent {__version__}")
        return
    if words in (["--help"], ["-h"]):
        from korbent.desktop.manual import commands, examples_text

        lines = "\n".join(f"  {name:12}{(one.help or '').splitlines()[0]}" for name, one in commands())
        typer.echo(
            say(
                "Korbent {version}: bearing, settlement, stability and concrete of shallow foundations.\n",
                version=__version__,
            )
        )
        typer.echo(
            say(
                "korbent [FILE], or korbent COMMAND; korbent COMMAND --help says "
                "more.\n\nCommands\n{lines}\n\nExamples\n{examples_text}",
                lines=lines,
                examples_text=examples_text(),
            )
        )
        return
    if not words or (words[0] not in COMMANDS and not words[0].startswith("-")):
        words = ["open", *words]
    try:
        app(words, prog_name="korbent")
    except (SystemExit, KeyboardInterrupt, BrokenPipeError):
        raise
    except Exception as error:
        raise SystemExit(fault_told(error)) from None
