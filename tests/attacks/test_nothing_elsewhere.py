"""A stranger's file makes us read, write or call nothing elsewhere: watched by the interpreter itself in a process of
its own."""

import json
import os
import subprocess
import sys
import zipfile
from pathlib import Path

import pytest

from korbent.core.model import Project, edited
from korbent.demo import coombe
from korbent.files.project_file import dumps
from korbent.files.sheet import write_sheets

EXAMPLES = Path(__file__).parents[2] / "examples"
WATCHED = r"""
import json, os, sys
from pathlib import Path

import pytest
folder, seen = sys.argv[1], []
# all that is imported on the way, and matplotlib-like caches, are read before anybody watches
import ezdxf, openpyxl, python_ags4.AGS4
from korbent.core.evaluate import evaluate
from korbent.core.model import Project
from korbent.demo import coombe
from korbent.files.ags4 import Ags4Error, read_ags4, write_ags4
from korbent.files.ground_tables import read_any, read_ground
from korbent.files.project_file import ProjectFileError, load, save
from korbent.sheets.report import write_report
from korbent.files.sheet import TableError, read_sheet
from korbent.files.underlay import UnderlayError, read_underlay
from korbent.drawing import plan as _plan
write_report(coombe(), Path(folder) / "warm.pdf")
read_ags4(Path(sys.argv[2]))
try: read_underlay(Path(folder) / "xref.dxf")
except UnderlayError: pass
allowed = (os.path.realpath(folder), sys.prefix, sys.base_prefix, os.path.dirname(sys.argv[3]), "/usr/share", "/usr/lib", "/proc", "/dev/null", "/sys", "/etc/localtime", "/etc/mime.types")
def hook(event, args):
    if event.startswith(("socket.", "urllib", "subprocess", "os.system", "os.exec", "os.spawn", "ftplib", "http")):
        seen.append([event, str(args)[:200]])
    elif event in ("open", "os.remove", "os.rename", "os.mkdir", "os.symlink", "shutil.move"):
        for path in args[:1] if event == "open" else args[:2]:
            if isinstance(path, (str, bytes)):
                real = os.path.realpath(os.fsdecode(path))
                if not real.startswith(allowed):
                    seen.append([event, real])
sys.addaudithook(hook)
read = 0
for file in sorted(Path(folder).iterdir()):
    try:
        if file.suffix == ".korbent":
            project = load(file)
            evaluate(project)
            save(project, file.with_name("again.korbent"))
            if read < 3:
                write_report(project, file.with_suffix(".pdf"))
            write_ags4(project, file.with_suffix(".out.ags"))
        elif file.suffix == ".ags":
            read_ags4(file)
        elif file.suffix in (".csv", ".xlsx"):
            cells = str(read_sheet(file))
            assert "root:" not in cells and "daemon" not in cells, file
            read_ground([file], Project())
        elif file.suffix == ".dxf":
            read_underlay(file)
        read += 1
    except (ProjectFileError, Ags4Error, TableError, UnderlayError) as error:
        assert "root:" not in str(error)
        read += 1
print(json.dumps([read, seen]))
"""
ELSEWHERE = (
    "/etc/passwd",
    "../../../etc/passwd",
    "file:///etc/passwd",
    "http://192.0.2.1/x",
    "//192.0.2.1/share/x",
    "~/.ssh/id_rsa",
    "$(touch /tmp/x)",
    "%n%s",
)


def hostile(folder: Path) -> None:
    """Files of every kind that name things elsewhere wherever a text can stand."""
    for number, text in enumerate(ELSEWHERE):
        project = edited(coombe(), ("title", "project"), text)
        project = edited(project, ("title", "author"), f"<img src='{text}'> <a href='{text}'>x</a>")
        project = edited(project, ("ground", "soils", project.ground.soils[0].name, "description"), f"{text} &xxe;")
        (folder / f"p{number}.korbent").write_text(dumps(project))
    ags = (EXAMPLES / "lindmere.ags").read_text()
    files = (
        '"GROUP","FILE"\r\n"HEADING","FILE_FSET","FILE_NAME","FILE_DESC"\r\n"UNIT","","",""\r\n"TYPE","X","X","X"\r\n'
    )
    files += "".join(f'"DATA","FS{i}","{t}","x"\r\n' for i, t in enumerate(ELSEWHERE))
    (folder / "files.ags").write_text(ags + "\r\n" + files)
    (folder / "loads.csv").write_text(
        "borehole,test,depth,value\n" + "".join(f"\"=cmd|'/C calc'!A0 {t}\",cu,1,40\n" for t in ELSEWHERE)
    )
    write_sheets(
        folder / "plain.xlsx",
        {"tests": (["borehole", "test", "depth", "value"], [[t, "cu", 1.0, 40.0] for t in ELSEWHERE])},
    )
    entity = '<!DOCTYPE x [<!ENTITY xxe SYSTEM "file:///etc/passwd"><!ENTITY far SYSTEM "http://192.0.2.1/x">]>'
    with zipfile.ZipFile(folder / "plain.xlsx") as good, zipfile.ZipFile(folder / "entity.xlsx", "w") as bad:
        for part in good.infolist():
            data = good.read(part)
            if part.filename.endswith(".xml"):
                head, _, rest = data.decode().partition("?>")
                text = rest if _ else head
                data = ('<?xml version="1.0"?>' + entity + text.replace("cu", "&xxe;&far;")).encode()
            bad.writestr(part.filename, data)
    import ezdxf

    document = ezdxf.new()
    document.modelspace().add_line((0, 0), (5, 5))
    for number, text in enumerate(ELSEWHERE[:4]):
        document.add_xref_def(text, f"far{number}")
        document.modelspace().add_blockref(f"far{number}", (number, 0))
        document.modelspace().add_image(document.add_image_def(text, (10, 10)), (0, 0), (1, 1))
    document.saveas(folder / "xref.dxf")


@pytest.mark.long
def test_nothing_is_read_written_or_called_elsewhere(tmp_path: Path) -> None:
    folder = tmp_path / "strangers"
    folder.mkdir()
    hostile(folder)
    count = len(list(folder.iterdir()))
    before = {p.name for p in tmp_path.iterdir()}
    source = str(Path(__file__).parents[2] / "src" / "korbent")
    environment = os.environ | {
        "PYTHONPATH": os.pathsep.join(sys.path),
        "KORBENT_STATE": str(folder / "state"),
        "QT_QPA_PLATFORM": "offscreen",
    }
    done = subprocess.run(
        [sys.executable, "-c", WATCHED, str(folder), str(EXAMPLES / "lindmere.ags"), source],
        env=environment,
        capture_output=True,
        text=True,
    )
    assert done.returncode == 0, done.stderr[-2000:]
    read, seen = json.loads(done.stdout.splitlines()[-1])
    assert seen == []
    assert read >= count
    assert {p.name for p in tmp_path.iterdir()} == before


@pytest.mark.long
def test_the_watch_sees_what_it_should(tmp_path: Path) -> None:
    """The test above can fail: a reader that followed a name would be seen."""
    (tmp_path / "a.korbent").write_text(dumps(Project()))
    followed = WATCHED.replace(
        "read = 0\n", "read = 0\nopen('/etc/hostname').close()\nimport socket; socket.socket()\n"
    )
    followed = followed.replace('try: read_underlay(Path(folder) / "xref.dxf")\nexcept UnderlayError: pass\n', "")
    environment = os.environ | {
        "PYTHONPATH": os.pathsep.join(sys.path),
        "KORBENT_STATE": str(tmp_path / "state"),
        "QT_QPA_PLATFORM": "offscreen",
    }
    done = subprocess.run(
        [sys.executable, "-c", followed, str(tmp_path), str(EXAMPLES / "lindmere.ags"), str(tmp_path / "x")],
        env=environment,
        capture_output=True,
        text=True,
    )
    _, seen = json.loads(done.stdout.splitlines()[-1])
    assert {event for event, _ in seen} >= {"open", "socket.__new__"}
