"""Any drawing of the window can be taken elsewhere: as SVG, PDF or picture, with a word where it cannot."""

from pathlib import Path
from xml.etree import ElementTree

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication, QImage
from PySide6.QtWidgets import QFileDialog, QMenu
from pytestqt.qtbot import QtBot

from korbent.app.canvas import DrawingView
from korbent.demo import lindmere
from tests.app.test_window import cell, opened


def view_of(qtbot: QtBot) -> DrawingView:
    window = opened(qtbot, lindmere())
    window.go_to(3)
    return window.findChild(DrawingView, "Plan")  # type: ignore[no-any-return]


def act(menu: QMenu, text: str) -> None:
    next(a for a in menu.actions() if a.text().startswith(text)).trigger()


@pytest.mark.long
@pytest.mark.parametrize("ending", [".svg", ".pdf", ".png", ""])
def test_a_drawing_is_saved_from_its_menu(
    qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, ending: str
) -> None:
    view = view_of(qtbot)
    asked: list[str] = []

    def where(_: object, title: str, name: str, kinds: str) -> tuple[str, str]:
        asked.extend((title, name, kinds))
        return str(tmp_path / f"taken{ending}"), ""

    monkeypatch.setattr(QFileDialog, "getSaveFileName", where)
    act(view.menu(), "Save this drawing")
    assert asked[:2] == ["Save: Plan", "plan.svg"]
    path = tmp_path / f"taken{ending or '.svg'}"
    session = view.window().session  # type: ignore[attr-defined]
    assert session.message == f"drawing saved to {path.name}"
    if ending == ".pdf":
        assert path.read_bytes().startswith(b"%PDF")
    elif ending == ".png":
        assert QImage(str(path)).size() == view.size() * 3
    else:
        texts = [e.text for e in ElementTree.fromstring(path.read_text()).iter() if e.tag.endswith("text")]
        assert {"P1", "P8", "R1"} <= set(texts)


def test_where_it_cannot_be_saved_the_window_says_so(qtbot: QtBot, tmp_path: Path) -> None:
    view = view_of(qtbot)
    session = view.window().session  # type: ignore[attr-defined]
    view.save(tmp_path / "plan.docx")
    assert session.message == "! plan.docx: a drawing is saved as .svg, .pdf or .png"
    view.save(tmp_path / "nowhere" / "plan.svg")
    assert session.message.startswith("! ")
    assert "No such file" in session.message
    assert not list(tmp_path.iterdir())


def test_it_is_copied_as_a_picture_and_the_right_button_selects_nothing(qtbot: QtBot) -> None:
    view = view_of(qtbot)
    act(view.menu(), "Copy as a picture")
    assert QGuiApplication.clipboard().image().size() == view.size() * 3
    heard: list[str] = []
    view.clicked.connect(heard.append)
    where = cell(view, "pad:P8")
    qtbot.mouseClick(view, Qt.MouseButton.RightButton, pos=where)
    assert heard == []
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=where)
    assert len(heard) == 1
