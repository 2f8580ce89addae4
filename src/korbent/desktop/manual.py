"""The manual page and the completions of shells, made of what the command line says of itself."""

from collections.abc import Iterator
from datetime import date
from typing import Any

import typer

from korbent import __version__

RELEASED = date(2026, 11, 30)
EXAMPLES = (
    ("korbent", "opens the start page"),
    ("korbent quay.korbent", "opens a project; in the window that is open already, where there is one"),
    ("korbent demo", "opens an example"),
    ("korbent check quay.korbent", "checks every foundation, and exits with 1 where something fails"),
    ("korbent check quay.korbent --json", "the same for another program"),
    ("korbent explain quay.korbent P7 punching", "prints the working of one check"),
    ("korbent report quay.korbent --out quay.pdf", "prints the report"),
    ("korbent install", "puts Korbent into the menus, with its file type, manual page and completions"),
)


def commands() -> Iterator[tuple[str, Any]]:
    """The commands that are shown, by name."""
    from korbent.cli import app

    group: Any = typer.main.get_command(app)
    for name, command in group.commands.items():
        if not command.hidden:
            yield name, command


def _options(command: Any) -> list[Any]:
    return [p for p in command.params if p.param_type_name == "option" and p.name != "help"]


def _arguments(command: Any) -> list[str]:
    return [(p.name or "").upper() for p in command.params if p.param_type_name == "argument"]


def examples_text() -> str:
    """The examples, for the help of the command line."""
    wide = max(len(line) for line, _ in EXAMPLES)
    return "\n".join(f"  {line:{wide}}  {does}" for line, does in EXAMPLES)


def manual_page() -> str:
    """The page korbent(1), in the language of man."""

    def plain(text: str) -> str:
        return text.replace("\\", "\\e").replace("-", "\\-").replace("\n", " ").strip()

    lines = [
        f'.TH KORBENT 1 "{RELEASED:%Y-%m-%d}" "Korbent {__version__}" "User Commands"',
        ".SH NAME",
        "korbent \\- bearing, settlement, stability and concrete of shallow foundations",
        ".SH SYNOPSIS",
        ".B korbent",
        "[\\fIFILE\\fR]",
        ".br",
        ".B korbent",
        "\\fICOMMAND\\fR [\\fIARGUMENTS\\fR]",
        ".SH DESCRIPTION",
        "Without a command the window opens, on a project file where one is named. The commands below work without a display.",
        ".SH COMMANDS",
    ]
    for name, command in commands():
        head = " ".join([f"\\fB{name}\\fR", *(f"\\fI{a}\\fR" for a in _arguments(command))])
        lines += [".TP", head, plain(command.help or "")]
        for option in _options(command):
            lines += [".RS", ".TP", f"\\fB{plain(option.opts[0])}\\fR", plain(option.help or ""), ".RE"]
    lines += [".SH EXAMPLES"]
    for line, does in EXAMPLES:
        lines += [".TP", f".B {plain(line)}", plain(does)]
    lines += [
        ".SH EXIT STATUS",
        "0: all checks hold or are accepted, or it is done. 1: something fails, is unstable, cannot be done or is not designed. 2: bad input or usage.",
        ".SH FILES",
        ".TP",
        "\\fI$XDG_STATE_HOME/korbent\\fR",
        "Copies of unsaved work, earlier versions, tries, the log, and what the window remembers.",
        ".SH ENVIRONMENT",
        ".TP",
        "\\fBKORBENT_STATE\\fR",
        "Another folder for these.",
    ]
    return "\n".join(lines) + "\n"


def bash_completion() -> str:
    """Commands, options, project files."""
    cases = "\n".join(
        f'    {name}) words="{" ".join(o.opts[0] for o in _options(command))}" ;;' for name, command in commands()
    )
    names = " ".join(name for name, _ in commands())
    return f"""# completion of korbent for bash
_korbent() {{
  local word=${{COMP_WORDS[COMP_CWORD]}} words=""
  COMPREPLY=()
  if [ "$COMP_CWORD" -eq 1 ]; then
    COMPREPLY=($(compgen -W "{names} --help --version" -- "$word"))
  fi
  case "${{COMP_WORDS[1]:-}}" in
{cases}
  esac
  case "$word" in
    -*) COMPREPLY=($(compgen -W "$words --help" -- "$word")) ;;
    *) COMPREPLY+=($(compgen -d -- "$word") $(compgen -f -X '!*.korbent' -- "$word")) ;;
  esac
}}
complete -o filenames -F _korbent korbent
"""


def zsh_completion() -> str:
    """The same for zsh."""

    def quoted(text: str) -> str:
        return text.replace("'", "").replace(":", " ").replace("[", "(").replace("]", ")").split("\n")[0]

    listed = "\n".join(f"    '{name}:{quoted(command.help or '')}'" for name, command in commands())
    cases = "\n".join(
        f"    {name}) _arguments {' '.join(_option(o.opts[0], quoted(o.help or '')) for o in _options(command))} '*:project:_files -g \"*.korbent\"' ;;"
        for name, command in commands()
    )
    return f"""#compdef korbent
_korbent() {{
  local -a commands
  commands=(
{listed}
  )
  if (( CURRENT == 2 )); then
    _describe command commands
    _files -g '*.korbent'
    return
  fi
  case $words[2] in
{cases}
  esac
}}
_korbent "$@"
"""


def _option(name: str, does: str) -> str:
    """An option for zsh."""
    return f"'{name}[{does}]'"
