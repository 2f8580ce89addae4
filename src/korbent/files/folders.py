"""Where Korbent keeps what it remembers between runs."""

import os
from pathlib import Path

from platformdirs import user_state_path


def state_folder() -> Path:
    """The folder of this user; KORBENT_STATE names another one."""
    named = os.environ.get("KORBENT_STATE")
    return Path(named) if named else user_state_path("korbent")
