"""The keys of the window."""

KEYS = (
    ("Alt+1 … 7", "the stops of the rail"),
    ("Alt+← →", "the next combination in every drawing and working; Alt+Home: the governing ones"),
    ("[  ]", "previous, next foundation"),
    ("↑ ↓ in a size", "one step; with Shift five, with Ctrl a fifth"),
    ("Enter in the ledger", "open the working; Esc goes back"),
    ("Enter, Tab in a table", "take the entry and go on down, along; below the last row typing adds one"),
    ("Ctrl+← ↑ ↓ →", "in a table: to the end of what is filled; Ctrl+D fills down"),
    ("Ctrl+,", "title, standards, settings, units: what holds for the project; once more goes back"),
    ("Ctrl+L", "the ledger of all bases; once more goes back"),
    ("Ctrl+T", "tries: set this state aside, compare, take one back"),
    ("Ctrl+K", "go to a foundation, a check, a command, a recent file"),
    ("Ctrl+Z, Ctrl+Shift+Z", "undo, redo"),
    ("Ctrl+S, Ctrl+O, Ctrl+N", "save, open, the start page"),
    ("Ctrl+P", "print the report"),
    ("F6, Shift+F6", "the next, previous part of the window; Tab within it; a frame shows where one is"),
    ("F1", "what one is at: a check, a size, a setting, a column; once more goes back"),
)
