"""The names of the layers of drawing files: ours, or those of the office, kept for all projects."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from korbent.app.words import Label
from korbent.files.office import keep_title_block, title_block
from korbent.sheets.layers import GEOMETRY, LAYERS, layer_name
from korbent.words import say

FORBIDDEN = set('<>/\\":;?*|,=`')


class LayersDialog(QDialog):
    """A row a layer; an emptied name is ours again."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, objectName="layers-dialog")
        self.setWindowTitle(say("Layers of drawing files"))
        self.resize(640, 520)
        own = title_block()
        self.table = QTableWidget(len(LAYERS), 3, objectName="layers")
        self.table.setAccessibleName(say("Layers"))
        self.table.setHorizontalHeaderLabels([say("What lies on it"), say("After ISO 13567-2"), say("In this office")])
        self.table.verticalHeader().setVisible(False)
        for i, (name, layer) in enumerate(LAYERS.items()):
            for k, text in enumerate((layer.says, layer_name(name, GEOMETRY), own.get(f"layer.{name}", ""))):
                item = QTableWidgetItem(text)
                if k < 2:
                    item.setFlags(Qt.ItemFlag.ItemIsEnabled)
                self.table.setItem(i, k, item)
        self.table.horizontalHeader().setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.table.setColumnWidth(1, 130)
        self.table.setColumnWidth(2, 170)
        self.note = Label(
            say(
                "Texts, dimensions and hatches get T, D and H behind the name. An empty cell keeps the name after the standard."
            ),
            objectName="quiet",
            wordWrap=True,
        )
        keep = QPushButton(say("Keep for all projects"), objectName="keep-layers")
        keep.clicked.connect(self.keep)
        close = QPushButton(say("Close"), objectName="close-layers", autoDefault=False)
        close.clicked.connect(self.close)
        foot = QHBoxLayout()
        foot.addWidget(self.note, 1)
        foot.addWidget(keep)
        foot.addWidget(close)
        column = QVBoxLayout(self)
        column.addWidget(self.table, 1)
        column.addLayout(foot)

    def keep(self) -> None:
        """Keeps the names; says what is wrong with them."""
        own = {k: v for k, v in title_block().items() if not k.startswith("layer.")}
        for i, name in enumerate(LAYERS):
            item = self.table.item(i, 2)
            text = item.text().strip() if item is not None else ""
            if FORBIDDEN & set(text) or len(text) > 200:
                self.note.setText(
                    say(
                        "'{text}': the name of a layer has none of {forbidden}",
                        text=text,
                        forbidden=" ".join(sorted(FORBIDDEN)),
                    )
                )
                return
            if text:
                own[f"layer.{name}"] = text
        try:
            keep_title_block(own)
        except OSError as error:
            self.note.setText(say("not kept: {why}", why=error.strerror or error))
            return
        self.close()
