"""What the pages for developers say is there: paths, names, recipes."""

import re
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from korbent.core.bearing import methods
from korbent.core.bearing.methods import vesic
from korbent.core.bearing.safety import compare
from korbent.core.checks import CHECKS
from korbent.core.evaluate import evaluate
from korbent.core.explain.check_words import MEANS, THEORY
from korbent.core.model import edited
from korbent.core.settlement import laws
from korbent.core.settlement.laws.compressibility import Compressibility
from korbent.verification.pad import one_pad

ROOT = Path(__file__).parent.parent
CONTRIBUTING = (ROOT / "docs" / "contributing.md").read_text()


def test_every_path_that_is_named_is_there() -> None:
    named = re.findall(
        r"`((?:src/korbent/|core/|drawing|sheets|files|app/|verification/|docs/|tests/|tools/|benchmarks|\./)[\w/.{},]*)`",
        CONTRIBUTING,
    )
    assert len(named) > 25
    for name in named:
        stem, _, inner = name.partition("{")
        for part in inner.rstrip("}").split(",") if inner else [""]:
            path = stem + part
            assert any((base / path).exists() for base in (ROOT, ROOT / "src/korbent")), name


def test_a_method_is_a_module_and_a_line(monkeypatch: pytest.MonkeyPatch) -> None:
    """As the recipe says: what is listed stands on the methods axis."""

    class Half:
        NAME, REFERENCE, TAKES = "Half of Vesic", "own choice", vesic.TAKES

        @staticmethod
        def drained(base, record):  # type: ignore[no-untyped-def]
            found = vesic.drained(base, record)
            return replace(found, pressure=found.pressure / 2)

        undrained = staticmethod(vesic.undrained)

    monkeypatch.setitem(methods.METHODS, Half.NAME, Half)  # type: ignore[arg-type]
    project = one_pad()
    found = {c.method: c for c in compare(project, project.pads[0], "drained").methods}
    assert found["Half of Vesic"].ultimate == pytest.approx(found["Vesic 1975"].ultimate / 2)


def test_a_law_is_a_class_and_a_line(monkeypatch: pytest.MonkeyPatch) -> None:
    """As the recipe says: soils that settle by it do so in the settlement checks."""

    class Twice(Compressibility):
        how = "twice"

        def strain(self, column, path):  # type: ignore[no-untyped-def]
            return 2 * super().strain(column, path)

    project = one_pad()
    for name, value in (("compression", "mv"), ("compressibility", 0.1)):
        project = edited(project, ("ground", "soils", "ground", name), value)

    def settled() -> float:
        return next(c.demand for c in evaluate(project).pads[0].checks if c.check.id == "settlement") or np.nan

    once = settled()
    monkeypatch.setitem(laws.LAWS, "mv", Twice())
    project = edited(project, ("ground", "soils", "ground", "compressibility"), 0.1000001)
    assert settled() == pytest.approx(2 * once, rel=1e-3)


def test_every_check_has_its_sentence_and_its_place_in_theory() -> None:
    for check in CHECKS:
        assert MEANS[check], check
        assert THEORY[check], check
