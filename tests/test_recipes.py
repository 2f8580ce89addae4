"""Each recipe of the page for developers, followed in a copy of the program: what it says is enough."""

import json
import os
import shutil
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]


class Copy:
    """A copy of the program that can be added to."""

    def __init__(self, folder: Path) -> None:
        self.source = folder / "src"
        shutil.copytree(ROOT / "src", self.source, ignore=shutil.ignore_patterns("__pycache__"))

    def adds(self, file: str, text: str) -> None:
        """A new module."""
        path = self.source / "korbent" / file
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text, "utf-8")

    def puts(self, file: str, before: str, text: str) -> None:
        """Lines before the only place where something stands."""
        path = self.source / "korbent" / file
        old = path.read_text("utf-8")
        assert old.count(before) == 1, f"{before} stands {old.count(before)} times in {file}"
        path.write_text(old.replace(before, text + before), "utf-8")

    def says(self, script: str) -> object:
        """What a program prints that runs on the copy, as JSON."""
        env = os.environ | {"PYTHONPATH": str(self.source), "QT_QPA_PLATFORM": "offscreen"}
        done = subprocess.run(
            [sys.executable, "-c", script], env=env, capture_output=True, text=True, timeout=120, cwd=self.source
        )
        assert done.returncode == 0, done.stderr
        return json.loads(done.stdout.splitlines()[-1])


@pytest.fixture(scope="module")
def copy(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Copy]:
    made = Copy(tmp_path_factory.mktemp("recipes"))
    yield made
    shutil.rmtree(made.source)


CHECK = '''
import numpy as np
from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, cannot
from korbent.core.working import Recorder
from korbent.words import say

def slab_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """No base is longer than the limit of the settings."""
    situations = bench.situations("allowable")
    if not len(situations):
        return [cannot("longest", say("none"))]
    demand = np.broadcast_to(bench.geometry.L, (len(bench.geometry.L), len(situations)))
    limit = np.full_like(demand, bench.settings.longest)
    record.given("L_max", limit, "m")
    record.given("L_own", demand, "m")
    record.step("ratio", "L_own/L_max", demand / limit)
    return [Outcome(CHECKS["longest"], demand, limit, demand / limit, situations)]
'''


@pytest.mark.long
def test_a_check_with_its_setting(copy: Copy) -> None:
    copy.puts(
        "core/checks.py",
        '        Check("uplift",',
        '        Check("longest", say("Longest"), "stability", "m", "own choice"),\n',
    )
    copy.adds("core/stability/longest.py", CHECK)
    copy.puts(
        "core/evaluate/families.py",
        "from korbent.core.straps.checks",
        "from korbent.core.stability.longest import slab_checks\n",
    )
    copy.puts("core/evaluate/families.py", "    uplift_checks,\n    settlement_checks,\n", "    slab_checks,\n")
    copy.puts("core/explain/check_words.py", '    "eccentricity": say(', '    "longest": say("Is it short enough?"),\n')
    copy.puts(
        "core/explain/check_words.py",
        '    "resistance-drained": ("**Resist',
        '    "longest": ("**Presumed pressure**",),\n',
    )
    copy.puts(
        "core/model/settings.py",
        "    load_spread: Share",
        '    longest: float = Field(default=3.0, gt=0, title=say("Longest"))\n',
    )
    copy.puts(
        "core/model/setting_words.py",
        '        "depth_measure": say(',
        '        "longest": say("How long a base may be."),\n',
    )
    found = copy.says(
        """
import json
from korbent.core.evaluate import evaluate
from korbent.core.explain.working import working
from korbent.core.model import edited
from korbent.verification.pad import one_pad
project = one_pad()
own = edited(project, ("pads", project.pads[0].name, "overrides", "longest"), 2.0)
told = []
for each in (project, own):
    checks = evaluate(each).pads[0].checks
    one = next(c for c in checks if c.check.id == "longest")
    lines = [line.symbol for line in working(each, each.pads[0], "longest").lines()]
    told.append([one.demand, one.capacity, one.ratio, lines, [c.check.id for c in checks].index("longest")])
print(json.dumps(told))
"""
    )
    assert isinstance(found, list)
    (demand, limit, ratio, lines, place), (_, own, _, _, _) = found
    assert ratio == pytest.approx(demand / limit)
    assert (limit, own) == (3.0, 2.0)
    assert {"ratio", "L_own", "L_max"} <= {*lines}
    assert place > 0


STANDARD = '''
from typing import ClassVar
from korbent.core.concrete.standards.en1992 import EN1992

class Half(EN1992):
    """Half of the punching strength."""
    name = "Half of EN"

    def punching_strength(self, *args):
        return super().punching_strength(*args) / 2

STANDARD = Half
'''


@pytest.mark.long
def test_a_concrete_standard(copy: Copy) -> None:
    copy.adds("core/concrete/standards/half/__init__.py", STANDARD)
    copy.puts("core/model/standards.py", '    "ACI 318-19": "aci318",', '    "Half of EN": "half",\n')
    found = copy.says(
        """
import json
from korbent.core.evaluate import evaluate
from korbent.core.model import edited
from korbent.verification.pad import one_pad
told = []
for name in ("EN 1992-1-1:2004", "Half of EN"):
    project = edited(one_pad(), ("standards", "concrete"), name)
    told.append({c.check.id: c.capacity for c in evaluate(project).pads[0].checks if c.check.id in ("punching", "cover")})
print(json.dumps(told))
"""
    )
    assert isinstance(found, list)
    whole, half = found
    assert 0.3 < half["punching"] / whole["punching"] < 0.7  # where it is worst may be elsewhere
    assert half["cover"] == whole["cover"]


KIND = '''
from typing import ClassVar
from korbent.core.kinds.pad import PadKind

class PierKind(PadKind):
    """Only its width is sized."""
    word: ClassVar[str] = "pier"

    def driven(self, pad, point):
        return ("width",)
'''


@pytest.mark.long
def test_a_kind_of_foundation(copy: Copy) -> None:
    copy.adds("core/kinds/pier.py", KIND)
    copy.puts(
        "core/kinds/__init__.py", "from korbent.core.kinds.raft", "from korbent.core.kinds.pier import PierKind\n"
    )
    copy.puts("core/kinds/__init__.py", '"raft": RaftKind()}', '"pier": PierKind(), ')
    copy.puts("core/model/foundations.py", '"strip", "raft"] = "pad"', '"pier", ')
    found = copy.says(
        """
import json
from korbent.core.evaluate import effects_of, evaluate
from korbent.verification.pad import one_pad
project = one_pad()
pier = project.replaced(pads=(project.pads[0].replaced(kind="pier"),))
print(json.dumps([sorted({e.dimension for e in effects_of(p, p.pads[0])}) for p in (project, pier)]
                 + [evaluate(pier).pads[0].worst.ratio == evaluate(project).pads[0].worst.ratio]))
"""
    )
    assert isinstance(found, list)
    assert "length" in found[0]
    assert found[1] == ["width"]
    assert found[2]


STOP = '''
from korbent.app.stops.signposts import SIGNPOSTS
from korbent.app.stops.stop import Stop
from korbent.app.words import Label
from PySide6.QtWidgets import QVBoxLayout

class MemoStop(Stop):
    """Something to read."""
    post = next(p for p in SIGNPOSTS if p.key == "memo")

    def build(self) -> None:
        QVBoxLayout(self).addWidget(Label("read this", objectName="memo-text"))

    def refresh(self) -> None:
        pass
'''
SHEET = '''
from korbent.drawing.primitives import Drawing, Text
from korbent.sheets.composition import View
from korbent.sheets.drawings.page import page_of, sheet_of

def memo_sheets(project, chosen, choice, changed):
    """One line."""
    page = page_of(project, choice, "A4")
    drawn = Drawing((Text((0, 0), "to be read on site", 12),), (-1, -1, 10, 1))
    return [sheet_of(project, "memo", "Memo", page, [View("memo", drawn, 50.0, 20.0, 20.0)])]
'''


@pytest.mark.long
def test_a_stop(copy: Copy) -> None:
    copy.puts("app/stops/signposts.py", "RAIL = ", 'MEMO = Signpost("memo", say("Memo"), "memo:MemoStop")\n')
    copy.puts("app/stops/signposts.py", "BEARING, SETTLEMENT, CONCRETE, SHEETS)", "MEMO, ")
    copy.adds("app/stops/memo.py", STOP)
    found = copy.says(
        """
import json
from korbent.app.main import application
from korbent.app.session import Session
from korbent.app.window import MainWindow
from korbent.app.words import Label
from korbent.verification.pad import one_pad
app = application()
window = MainWindow(Session(one_pad()))
window.show()
window.go_to("memo")
told = [window.stop.title, window.stop.findChild(Label, "memo-text").text(), window.sizes.isVisible()]
window.go_to("sheets")
print(json.dumps([*told, window.stop.title, window.sizes.isVisible(), len(window.rail.buttons)]))
window.session.saved = window.session.project
window.close()
"""
    )
    assert found == ["Memo", "read this", True, "Sheets", False, 8]


@pytest.mark.long
def test_a_sheet(copy: Copy) -> None:
    copy.adds("sheets/drawings/memo.py", SHEET)
    copy.puts(
        "sheets/catalogue.py",
        '        SheetKind(\n            "basis",',
        '        SheetKind("memo", say("Memo"), "drawings", say("what to read on site")),\n',
    )
    copy.puts(
        "sheets/drawings/__init__.py",
        "from korbent.sheets.drawings.plan",
        "from korbent.sheets.drawings.memo import memo_sheets\n",
    )
    copy.puts("sheets/drawings/__init__.py", '    "plan": plan_sheets,', '    "memo": memo_sheets,\n')
    found = copy.says(
        """
import json
from korbent.core.model.sheets import SheetChoice, SheetSet
from korbent.sheets.catalogue import ticked
from korbent.sheets.drawings import drawings
from korbent.verification.pad import one_pad
chosen = SheetSet(name="site", sheets=(SheetChoice(key="memo"),))
(sheet,) = drawings(one_pad(), chosen, ticked(chosen))
texts = [s.text for view in sheet.whole for s in view.drawing.shapes if hasattr(s, "text")]
print(json.dumps([sheet.title, "to be read on site" in texts, sheet.number, sheet.of]))
"""
    )
    assert found == ["Memo", True, 1, 1]
