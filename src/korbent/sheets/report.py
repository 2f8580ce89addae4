"""The short way to the calculation of the default set, as a PDF."""

from errno import ENOENT
from pathlib import Path

from korbent.core.evaluate import evaluate
from korbent.core.model import Project
from korbent.sheets.calculation import calculation, of_base
from korbent.sheets.calculation_pdf import write_calculation
from korbent.sheets.catalogue import set_named
from korbent.words import say


def write_report(project: Project, path: Path, name: str = "") -> int:
    """Writes the calculation of a set (the first one where none is named) as a PDF with selectable text. Returns the
    number of pages.

    Raises:
        OSError: when the file cannot be written.
        KeyError: when there is no such set.
    """
    _folder_of(path)
    return write_calculation(calculation(project, evaluate(project), set_named(project, name)), Path(path))


def write_base(project: Project, base: str, path: Path) -> int:
    """Writes the calculation of one base, all its workings included.

    Raises:
        OSError: when the file cannot be written.
        KeyError: when there is no such base.
    """
    _folder_of(path)
    return write_calculation(of_base(project, evaluate(project), base), Path(path))


def _folder_of(path: Path) -> None:
    """Found out before the work, not after it."""
    if not path.resolve().parent.is_dir():
        raise FileNotFoundError(ENOENT, say("No such file or directory"), str(path))
