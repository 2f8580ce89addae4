"""Korbent: bearing, settlement, stability and concrete of shallow foundations."""

import os

# pydantic looks through all installed packages for plugins at import; there are none for it here
os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "__all__")

__version__ = "0.1.0"
