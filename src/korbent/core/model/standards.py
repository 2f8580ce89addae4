"""The standards that a project may follow."""

from typing import Annotated, Literal

from pydantic import AfterValidator, WithJsonSchema

from korbent.core.model.frozen import Frozen
from korbent.words import say

CONCRETE = {
    "EN 1992-1-1:2004": "en1992",
    "ACI 318-19": "aci318",
    "ACI 318-14": "aci318_14",
    "AS 3600:2018": "as3600",
}
"""Concrete standards by their names: the folder in korbent.core.concrete.standards that holds each."""

WITHOUT = "none"
"""No concrete is checked."""


def _known(name: str) -> str:
    if name not in CONCRETE and name != WITHOUT:
        raise ValueError(
            say(
                "{name!r} is no concrete standard here; these are: {value}",
                name=name,
                value=", ".join([*CONCRETE, WITHOUT]),
            )
        )
    return name


class Standards(Frozen):
    """The standards in force."""

    ground: Literal["EN 1997-1:2004"] = "EN 1997-1:2004"
    approach: Literal["DA1", "DA2", "DA2*", "DA3", "resistance_factors"] = "DA1"
    concrete: Annotated[
        str, AfterValidator(_known), WithJsonSchema({"enum": [*CONCRETE, WITHOUT], "type": "string"})
    ] = "EN 1992-1-1:2004"
