"""Commands stand in one list that serves keys, buttons, the search field and help."""

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QShortcut
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from korbent.app.commands import BESIDE, COMMANDS, RAIL, command, keys_and_words
from korbent.app.window import MainWindow
from korbent.core.model import Project
from tests.app.test_window import opened

GUIDE = (Path(__file__).parents[2] / "docs" / "guide.md").read_text(encoding="utf-8")


@pytest.fixture
def window(qtbot: QtBot, demo: Project) -> MainWindow:
    return opened(qtbot, demo)


def test_no_name_and_no_key_stands_twice() -> None:
    names = [c.name for c in COMMANDS]
    keys = [k for c in COMMANDS for k in c.keys]
    assert len({*names}) == len(names)
    assert len({*keys}) == len(keys)


@pytest.mark.long
def test_the_stops_of_the_window_are_those_of_the_list(window: MainWindow) -> None:
    assert tuple(s.title.lower() for s in window.stops) == (*RAIL, *BESIDE)
    for place in (*RAIL, *BESIDE):
        window.go_to(place)
        assert window.stop.title.lower() == place
    with pytest.raises(KeyError):
        window.go_to("nowhere")


def test_each_key_is_bound_once(window: MainWindow) -> None:
    bound = [s.key().toString() for s in window.findChildren(QShortcut) if s.parent() is window]
    assert sorted(bound) == sorted(k for c in COMMANDS for k in c.keys)


def test_every_command_is_found_and_says_its_key(window: MainWindow) -> None:
    found = {e.text: e.detail for e in window.places()}
    for one in COMMANDS:
        if one.searched:
            assert one.name in found
            assert not one.keys or one.keys[0] in found[one.name]


def test_buttons_say_what_their_command_does(window: MainWindow) -> None:
    for key in ("open", "save", "report", "undo", "redo", "theme", "units"):
        button = window.findChild(QPushButton, key)
        assert button is not None
        assert button.toolTip() == command(key).tip


def test_each_command_has_a_key_of_its_own() -> None:
    assert len({c.key for c in COMMANDS}) == len(COMMANDS)
    assert all(command(c.key) is c for c in COMMANDS)


def test_keys_do_what_the_list_says(window: MainWindow) -> None:
    session = window.session
    first = session.selected
    QTest.keyClick(window, Qt.Key.Key_BracketRight)
    assert session.selected != first
    QTest.keyClick(window, Qt.Key.Key_BracketLeft)
    assert session.selected == first
    QTest.keyClick(window, Qt.Key.Key_L, Qt.KeyboardModifier.ControlModifier)
    assert window.stop.title == "All bases"
    QTest.keyClick(window, Qt.Key.Key_6, Qt.KeyboardModifier.AltModifier)
    assert window.stop.title == "Concrete"


def test_the_list_of_keys_and_the_guide_name_them_all() -> None:
    listed = " ".join(keys for keys, _ in keys_and_words())
    for one in COMMANDS:
        if one.keys and one.name.lower() not in RAIL:
            assert one.keys[0] in listed
            assert one.keys[0] in GUIDE or f"`{one.keys[0]}`" in GUIDE, one.name
    assert "Alt+1 … 7" in listed
