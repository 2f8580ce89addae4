"""Korbent among the other applications of a Linux desktop: entry, icon, file type, description, manual page,
completion."""

import os
import shutil
import subprocess
from collections.abc import Callable, Mapping
from importlib import resources
from pathlib import Path
from xml.sax.saxutils import escape

from korbent import __version__
from korbent.desktop.manual import bash_completion, manual_page, zsh_completion

ID = "org.korbent.Korbent"
MIME = "application/x-korbent"
SUMMARY = "Bearing, settlement and concrete of foundations"


def icon() -> str:
    """The icon, as SVG."""
    return (resources.files(__package__) / "icon.svg").read_text(encoding="utf-8")


def desktop_entry(command: str) -> str:
    """The entry of menus; ``command`` starts the program."""
    # in a quoted argument these signs are escaped, and a percent is doubled
    quoted = (
        command.replace("\\", r"\\\\")
        .replace('"', r"\\\"")
        .replace("`", r"\\`")
        .replace("$", r"\\$")
        .replace("%", "%%")
    )
    return f"""[Desktop Entry]
Type=Application
Version=1.0
Name=Korbent
GenericName=Foundation design
Comment={SUMMARY}
Exec="{quoted}" --window %f
Icon={ID}
Terminal=false
Categories=Science;Engineering;
MimeType={MIME};
Keywords=foundation;footing;raft;bearing;settlement;geotechnics;concrete;
StartupWMClass=korbent
StartupNotify=true
"""


def mime_type() -> str:
    """The type of project files."""
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<mime-info xmlns="http://www.freedesktop.org/standards/shared-mime-info">
  <mime-type type="{MIME}">
    <comment>Korbent project</comment>
    <sub-class-of type="application/json"/>
    <glob pattern="*.korbent"/>
    <icon name="{ID}"/>
  </mime-type>
</mime-info>
"""


def description() -> str:
    """What software centres say."""
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<component type="desktop-application">
  <id>{ID}</id>
  <metadata_license>CC0-1.0</metadata_license>
  <project_license>GPL-3.0-or-later</project_license>
  <name>Korbent</name>
  <summary>{escape(SUMMARY)}</summary>
  <developer id="org.korbent"><name>The Korbent authors</name></developer>
  <description>
    <p>Korbent computes bearing capacity, settlement, sliding and overturning of pads, strips, straps and rafts from the strata
    below them, sizes the foundation plan, and designs its reinforcement. Every change of a dimension shows at once in all checks,
    and every number opens its formula, its values and its clause.</p>
    <ul>
      <li>Eurocode, American and Australian rules, metric or US customary units</li>
      <li>Settlement over time, with construction steps and neighbours</li>
      <li>Calculation report, drawings, and bar schedule</li>
    </ul>
  </description>
  <launchable type="desktop-id">{ID}.desktop</launchable>
  <categories><category>Science</category><category>Engineering</category></categories>
  <provides><binary>korbent</binary><mediatype>{MIME}</mediatype></provides>
  <content_rating type="oars-1.1"/>
  <releases><release version="{__version__}" date="2026-11-30"/></releases>
</component>
"""


def data_home() -> Path:
    """Where a user's own applications lie."""
    return Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")


def files(command: str) -> Mapping[str, str]:
    """What is installed, by its place below the data folder."""
    return {
        f"applications/{ID}.desktop": desktop_entry(command),
        f"icons/hicolor/scalable/apps/{ID}.svg": icon(),
        f"mime/packages/{ID}.xml": mime_type(),
        f"metainfo/{ID}.metainfo.xml": description(),
        "man/man1/korbent.1": manual_page(),
        "bash-completion/completions/korbent": bash_completion(),
        "zsh/site-functions/_korbent": zsh_completion(),
    }


def install(command: Path, data: Path, programs: Path, said: Callable[[str], None] = lambda line: None) -> list[Path]:
    """Installs for one user.

    Args:
        command: what starts the program. data: folder of the user's applications. programs: folder of the user's
        commands, where a link
            is made; one of another program there stays as it is, and that is said.

    Raises:
        OSError: when a file cannot be written.
    """
    from korbent.files.atomic import write_whole

    made = []
    for place, text in files(str(command)).items():
        target = data / place
        target.parent.mkdir(parents=True, exist_ok=True)
        write_whole(target, text.encode())
        made.append(target)
    link = programs / "korbent"
    programs.mkdir(parents=True, exist_ok=True)
    if link.is_symlink() or not link.exists():
        link.unlink(missing_ok=True)
        link.symlink_to(command)
        made.append(link)
    elif link.resolve() != command.resolve():
        said(f"{link} is another program: it stays as it is")
    _told(data)
    return made


def uninstall(data: Path, programs: Path, command: Path) -> list[Path]:
    """Takes away what :func:`install` made; gives what was there."""
    gone = []
    for place in files(""):
        target = data / place
        if target.exists():
            target.unlink()
            gone.append(target)
    link = programs / "korbent"
    if link.is_symlink() and link.resolve() == command.resolve():
        link.unlink()
        gone.append(link)
    _told(data)
    return gone


def _told(data: Path) -> None:
    """Desktops that keep lists renew them, where their tools are there."""
    for tool, *rest in (
        ("update-desktop-database", str(data / "applications")),
        ("update-mime-database", str(data / "mime")),
        ("gtk-update-icon-cache", "-qtf", str(data / "icons" / "hicolor")),
    ):
        found = shutil.which(tool)
        if found:
            subprocess.run([found, *rest], check=False, capture_output=True)
