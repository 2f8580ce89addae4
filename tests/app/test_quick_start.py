"""What is loaded before the first window: nothing that only few will need."""

import os
import subprocess
import sys

import pytest

SELDOM = ("reportlab", "scipy", "clarabel", "gmsh", "numba", "ezdxf", "docx", "openpyxl", "pypdfium2")


@pytest.mark.long
@pytest.mark.parametrize("module", ["korbent.app.window", "korbent.cli"])
def test_no_solver_is_loaded_at_the_start(module: str) -> None:
    asked = f"import sys, {module}; print(*sorted({{m.split('.')[0] for m in sys.modules}}))"
    loaded = subprocess.run(
        [sys.executable, "-c", asked],
        capture_output=True,
        text=True,
        check=True,
        env={**os.environ, "PYTHONPATH": os.pathsep.join(p for p in sys.path if p)},
    ).stdout.split()
    assert "korbent" in loaded
    assert not set(loaded) & set(SELDOM)
