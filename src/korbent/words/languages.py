"""The languages there are: English, which the texts are written in; catalogues of others; and one made up.

A catalogue is a ``.mo`` file of GNU gettext: its English texts are the codes of messages, ``{values}`` by name.
``tools/words.py`` writes the template to translate from and makes a catalogue of a translated one.
"""

import gettext
import re
import struct
from collections.abc import Callable
from pathlib import Path
from string import ascii_lowercase, ascii_uppercase

from korbent.words import VARIABLE, Wording

FOLDER = Path(__file__).parent / "catalogues"
MADE_UP = "made-up"

_LETTERS = str.maketrans(
    ascii_lowercase + ascii_uppercase,
    "".join(chr(0x561 + i) for i in range(26)) + "".join(chr(0x531 + i) for i in range(26)),
)
_STAYS = re.compile(r"\{[^{}]*\}|<[^<>]*>|&[a-z]+;")
"""Values, markup and named characters."""


def made_up(code: str) -> str:
    """A text in a language that nobody speaks: other letters, the same values. Whatever is still to be read in it was
    not said by ``say``."""
    parts, at = [], 0
    for kept in _STAYS.finditer(code):
        parts += [code[at : kept.start()].translate(_LETTERS), kept.group()]
        at = kept.end()
    return "".join((*parts, code[at:].translate(_LETTERS)))


def language(name: str) -> tuple[Wording | None, Callable[[str, str, int], str] | None]:
    """How codes are worded in a language, and one of two by a number. Raises ValueError where there is no catalogue."""
    if name in ("", "en"):
        return None, None
    if name == MADE_UP:
        return made_up, lambda one, many, number: made_up(one if number == 1 else many)
    path = Path(name) if name.endswith(".mo") else FOLDER / f"{name}.mo"
    try:
        with path.open("rb") as file:
            found = gettext.GNUTranslations(file)
    except (OSError, ValueError, EOFError, struct.error) as error:
        known = sorted({"en", *(p.stem for p in FOLDER.glob("*.mo"))})
        raise ValueError(
            f"{VARIABLE}: no catalogue of texts in {path} ({error}); known are {', '.join(known)}, or name a .mo file"
        ) from error
    return found.gettext, found.ngettext
