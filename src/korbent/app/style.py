"""The look of the widgets, made from the theme."""

from functools import lru_cache

from PySide6.QtGui import QColor, QFont, QFontDatabase

from korbent.drawing.theme import FAMILY, LIGHT, SIZE, THEMES, Theme, font_file

_loaded: list[int] = []


def load_fonts() -> None:
    """Makes the typeface known to Qt, once."""
    if not _loaded:
        _loaded.extend(
            QFontDatabase.addApplicationFont(str(font_file(weight))) for weight in ("Regular", "Semibold", "Bold", "It")
        )


def font(size: float = SIZE["text"], bold: bool = False, italic: bool = False) -> QFont:
    """The typeface at a size in px, with tabular figures."""
    result = QFont(FAMILY)
    result.setPixelSize(round(size))
    if bold:
        result.setWeight(QFont.Weight.DemiBold)
    result.setItalic(italic)
    result.setFeature(QFont.Tag("tnum"), 1)
    return result


def colour(token: str, theme: Theme = LIGHT, opacity: float = 1.0) -> QColor:
    """The colour of a token; ``ratio:1.08`` and ``field:0.4`` are scales. Not to be changed: it is shared."""
    return _colour(token, theme.name, opacity)


@lru_cache(maxsize=2048)
def _colour(token: str, name: str, opacity: float) -> QColor:
    result = QColor(THEMES[name].resolved(token))
    result.setAlphaF(opacity)
    return result


def sheet(theme: Theme) -> str:
    """The style sheet of the window."""
    t = theme
    return f"""
    QWidget {{ background: {t.paper}; color: {t.ink}; font-family: "{FAMILY}"; font-size: {SIZE["text"] + 1}px; }}
    QToolTip {{ background: {t.raised}; color: {t.ink}; border: 1px solid {t.line}; padding: 3px; }}
    #desk, #desk QLabel, #desk QWidget {{ background: {t.desk}; }}
    #quiet {{ color: {t.soft}; }}
    QLabel#ledger-title {{ font-size: 21px; font-weight: 600; }} QLabel#ledger-worst {{ font-size: 27px; font-weight: 600; }}
    QLabel#panel-title, QLabel#heading {{ font-size: 16px; font-weight: 600; }} QLabel#pane-title {{ font-size: 15px; font-weight: 600; }}
    QLabel#small, QPushButton#flat {{ font-size: 13px; }} QLabel#mark {{ font-size: 19px; font-weight: 600; color: {t.accent}; }}
    QLabel#project {{ font-size: 16px; font-weight: 600; }} #desk QLabel#standards {{ color: {t.soft}; }}
    QLabel#project:hover, QLabel#project:focus, #desk QLabel#standards:hover, #desk QLabel#standards:focus {{ color: {t.accent}; }}
    QListWidget#project-sections {{ border-right: 1px solid {t.line}; padding: 8px 0px; }}
    QListWidget#project-sections::item {{ padding: 4px 10px; }}
    QListWidget#project-sections::item:selected {{ background: {t.accent_wash}; color: {t.accent}; }}
    QHeaderView::section {{ font-size: 12px; }}
    #message {{ color: {t.ink}; padding: 3px 12px; background: {t.desk}; border-top: 1px solid {t.line}; }}
    #message[wrong="true"] {{ color: {t.beyond}; background: {t.beyond_wash}; }}
    QFrame#tour {{ background: {t.accent_wash}; border-top: 1px solid {t.accent}; }} QFrame#tour QLabel {{ background: transparent; }}
    QLabel#ground-results {{ font-size: 16px; font-weight: 600; }}
    QLabel#tour-count {{ color: {t.accent}; font-weight: 600; }} QLabel#tour-text {{ font-size: 14px; }}
    QFrame#pane {{ border: none; }} QSplitter::handle {{ background: {t.line}; }} QSplitter::handle:hover {{ background: {t.accent}; }}
    QPushButton {{ background: transparent; border: 1px solid {t.line}; border-radius: 4px; padding: 3px 9px; }}
    QPushButton:hover {{ border-color: {t.accent}; color: {t.accent}; }}
    QPushButton:focus {{ border-color: {t.accent}; }}
    QPushButton:disabled {{ color: {t.line}; border-color: {t.faint}; }}
    QPushButton:checked {{ background: {t.accent_wash}; border-color: {t.accent}; color: {t.accent}; }}
    QPushButton[strong="true"] {{ background: {t.accent}; color: {t.paper}; font-weight: 600; border-color: {t.accent}; padding: 6px 9px; }}
    QPushButton[strong="true"]:hover {{ color: {t.paper}; }} QPushButton[strong="true"]:disabled {{ background: {t.faint}; color: {t.soft}; }}
    QWidget#sheet-side, QListWidget#sheet-list {{ background: {t.paper}; }} QWidget#sheet-side {{ border-right: 1px solid {t.line}; }}
    QListWidget#sheet-list {{ border: none; outline: none; }} QScrollArea#sheet-panel {{ border-left: 1px solid {t.line}; }}
    QPushButton[small="true"] {{ font-size: 13px; padding: 0px 7px; }}
    QPushButton#corner {{ background: {t.paper}; font-size: 13px; padding: 2px 8px; }} QPushButton#corner:checked {{ background: {t.accent_wash}; }}
    QPushButton#flat {{ border: none; color: {t.accent}; padding: 3px 4px; }}
    QFrame#stepper QLineEdit:disabled, QFrame#stepper QPushButton:disabled {{ color: {t.soft}; }}
    QPushButton#quiet-flat {{ border: none; background: none; color: {t.soft}; padding: 0px 2px; font-size: 13px; min-height: 0px; }}
    QPushButton#flat[edge="true"] {{ padding: 0px 2px; font-size: 13px; }}
    QPushButton#flat:disabled {{ color: {t.soft}; }}
    QPushButton#step {{ border: none; color: {t.accent}; font-size: 17px; padding: 0 6px; background: transparent; }}
    QPushButton#effect {{ border: none; padding: 0 2px; text-align: left; background: transparent; }}
    QFrame#stepper {{ background: {t.raised}; border: 1px solid {t.line}; border-radius: 5px; }}
    QFrame#stepper QLineEdit {{ border: none; background: transparent; font-weight: 600; font-size: 16px; padding: 0; }}
    QFrame#stepper[wrong="true"] {{ border-color: {t.beyond}; }}
    QLineEdit {{ background: {t.raised}; border: 1px solid {t.line}; border-radius: 4px; padding: 3px 6px;
        selection-background-color: {t.accent}; selection-color: {t.paper}; }}
    QLabel#spot {{ color: {t.soft}; font-size: 12px; background: transparent; }}
    QLineEdit[wrong="true"] {{ border-color: {t.beyond}; background: {t.beyond_wash}; }}
    QFrame#card {{ background: {t.raised}; border: 1px solid {t.line}; border-radius: 5px; }} QFrame#card QLabel {{ background: transparent; }}
    QFrame#card:hover, QFrame#card:focus {{ border-color: {t.accent}; }} QLabel#card-title {{ font-weight: 600; }}
    QWidget#start-side {{ border-right: 1px solid {t.line}; }}
    QPushButton#start-go {{ background: {t.accent}; color: {t.paper}; font-weight: 600; padding: 6px 16px; }}
    QPushButton#start-go:disabled {{ background: {t.line}; color: {t.paper}; border-color: {t.line}; }}
    QLineEdit:focus {{ border-color: {t.accent}; }}
    QCheckBox::indicator {{ width: 13px; height: 13px; border: 1px solid {t.soft}; border-radius: 3px; background: {t.raised}; }}
    QCheckBox::indicator:checked {{ border-color: {t.accent}; background: qradialgradient(cx: 0.5, cy: 0.5, radius: 0.5, fx: 0.5, fy: 0.5,
        stop: 0 {t.accent}, stop: 0.72 {t.accent}, stop: 0.74 {t.raised}, stop: 1 {t.raised}); }}
    QCheckBox::indicator:disabled {{ border-color: {t.line}; }}
    QTableView {{ background: {t.paper}; gridline-color: {t.faint}; border: none; alternate-background-color: {t.paper};
        selection-background-color: {t.accent_wash}; selection-color: {t.ink}; }}
    QTableView::item:focus {{ border: 1px solid {t.accent}; }}
    QHeaderView::section {{ background: {t.desk}; color: {t.soft}; border: none; border-right: 1px solid {t.line};
        border-bottom: 1px solid {t.line}; padding: 3px 6px; }}
    QTableWidget#proposals QHeaderView::section {{ padding-left: 3px; padding-right: 3px; }}
    QTableCornerButton::section {{ background: {t.desk}; border: none; }}
    QListWidget#search-list {{ background: {t.raised}; border: 1px solid {t.line}; border-radius: 4px; padding: 3px; }}
    QListWidget#search-list::item:selected {{ background: {t.accent_wash}; color: {t.ink}; }}
    QListView, QTextBrowser {{ border: none; background: {t.paper}; }}
    QScrollBar:vertical {{ width: 9px; background: transparent; }} QScrollBar:horizontal {{ height: 9px; background: transparent; }}
    QScrollBar::handle {{ background: {t.line}; border-radius: 4px; min-height: 24px; min-width: 24px; }}
    QProgressBar {{ border: 1px solid {t.line}; border-radius: 4px; background: {t.raised}; height: 14px; text-align: center; }}
    QProgressBar::chunk {{ background: {t.accent}; border-radius: 3px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
    QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; }}
    QComboBox {{ background: {t.raised}; border: 1px solid {t.line}; border-radius: 4px; padding: 2px 6px; }}
    QComboBox::drop-down {{ border: none; width: 18px; }}
    QComboBox::down-arrow {{ width: 0; height: 0; border-left: 4px solid {t.raised}; border-right: 4px solid {t.raised};
        border-top: 5px solid {t.soft}; }}
    QComboBox QAbstractItemView {{ background: {t.raised}; selection-background-color: {t.accent_wash}; selection-color: {t.ink}; }}
    """
