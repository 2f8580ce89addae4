"""The table of rafts: its parts are typed as text, what cannot be is refused with what to type."""

from typing import Any

import pytest
from pytestqt.qtbot import QtBot

from korbent.app.session import Session
from korbent.app.specs import RAFTS
from korbent.app.tables import TableModel
from korbent.core.quantity_text import parse
from korbent.core.units import SUBGRADE, UnitError
from korbent.drawing.theme import LIGHT
from tests.core.test_rafts import raft


def model(session: Session) -> TableModel:
    made = TableModel(session, RAFTS, LIGHT)
    made.refresh()
    return made


def typed(table: TableModel, title: str, text: str) -> str:
    """Types into the cell under a heading; what is wrong with it, or ''."""
    column = next(i for i, c in enumerate(table.columns) if c.title == title)
    table.setData(table.index(0, column), text)
    return table.wrong.get((0, column), ("", ""))[1]


@pytest.mark.long
@pytest.mark.parametrize(
    ("title", "text", "name", "shown"),
    [
        (
            "Openings",
            "0.8 to 2.6, -1 to 1; 3 to 3.6, 0 to 1",
            "openings",
            "0.8 to 2.6, -1 to 1; 3 to 3.6, 0 to 1",
        ),
        ("Thicker parts", "-1 to 1, -2.4 to -1: 0.8", "thickenings", "-1 to 1, -2.4 to -1: 0.8"),
        (
            "Added bars",
            "bottom x: -1 to 1, -2 to 2: 20 at 150",
            "added",
            "bottom x: -1 to 1, -2 to 2: ø20 at 150",
        ),
        ("Loads on it", "G: -1 to 1, -2 to 2: 5", "loads", "G: -1 to 1, -2 to 2: 5"),
        (
            "Zones of k",
            "-4 to 0, -2 to 2: 12000; 0 to 1, 0 to 1: 5000 kN/m3",
            "zones",
            "-4 to 0, -2 to 2: 12000; 0 to 1, 0 to 1: 5000",
        ),
    ],
)
def test_what_is_typed_stands_in_the_model_and_in_the_cell(
    qtbot: QtBot, title: str, text: str, name: str, shown: str
) -> None:
    session = Session(raft())
    table = model(session)
    assert typed(table, title, text) == ""
    found: Any = getattr(session.project.pads[0].plate, name)
    assert len(found) == text.count(";") + 1
    table.refresh()
    column = next(i for i, c in enumerate(table.columns) if c.title == title)
    assert table.text(0, column) == shown
    session.undo()
    assert getattr(session.project.pads[0].plate, name) == ()


@pytest.mark.long
@pytest.mark.parametrize(
    ("title", "text", "words"),
    [
        ("Openings", "0.8 - 2.6, -1 to 1", "from and to along x"),
        ("Openings", "4 to 6, 0 to 1", "reaches over the edge"),
        ("Thicker parts", "-1 to 1, -1 to 1", "after the region and a colon"),
        ("Thicker parts", "-1 to 1, -1 to 1: thick", "no number"),
        ("Added bars", "side: -1 to 1, -1 to 1: 20 at 150", "face, region and bars"),
        ("Loads on it", "X: -1 to 1, -1 to 1: 5", "no load case"),
        ("Subgrade k", "-5", "greater than"),
    ],
)
def test_what_cannot_be_is_refused_in_words(qtbot: QtBot, title: str, text: str, words: str) -> None:
    session = Session(raft())
    before = session.project
    assert words in typed(model(session), title, text)
    assert session.project is before


def test_stiffness_of_the_ground_in_its_own_units(qtbot: QtBot) -> None:
    session = Session(raft())
    for text in ("20000 kN/m3", "20 MPa/m", "20000"):
        assert typed(model(session), "Subgrade k", text) == ""
        assert session.project.pads[0].plate.subgrade == pytest.approx(20_000.0)  # type: ignore[union-attr]
    # a pound per cubic inch is 271.4 kN/m3
    assert parse("100 pci", SUBGRADE) == pytest.approx(27_144.7, rel=1e-4)
    with pytest.raises(UnitError, match="weight of a volume"):
        parse("120 pcf", SUBGRADE)
