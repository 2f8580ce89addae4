"""Which bases are built alike: what one detail and one page stands for."""

import re
from dataclasses import dataclass
from typing import Any

from korbent.core.model import Pad, Project
from korbent.core.model.frozen import BOOKKEEPING

OF_THE_PLACE = frozenset(
    {
        "name",
        "load_point",
        "further",
        "type",
        "rotation",
        "level",
        "held",
        "ranges",
        "frozen",
        "overrides",
        "accepted",
        "hold_x",
        "hold_y",
        "pedestals",
    }
)
"""What may differ between bases that are built alike."""

PREFIXES = ("F", "T", "K", "D")
"""How what is built alike is called where no type has its name: the first letter that no base and no type begins
with."""


@dataclass(frozen=True)
class Kind:
    """Bases that are built alike."""

    name: str
    members: tuple[Pad, ...]

    @property
    def first(self) -> Pad:
        """The one that is drawn."""
        return self.members[0]

    @property
    def names(self) -> str:
        """The names of its members."""
        return ", ".join(p.name for p in self.members)


def _built(project: Project, pad: Pad) -> tuple[Any, ...]:
    """What is built: size, bars, columns on it, pedestals by their height, cover and ends of bars."""
    settings = project.settings_of(pad)
    own = tuple(
        getattr(pad, name)
        for name in type(pad).model_fields
        if name not in OF_THE_PLACE and name not in BOOKKEEPING and name != "pedestal"
    )
    standing = []
    for name in pad.carries:
        point, pedestal = project.load_point(name), pad.pedestal_under(name)
        high = None if pedestal is None else round(pedestal.top - pad.top, 4)
        plain = None if pedestal is None else pedestal.replaced(top=0.0)
        standing.append(
            (
                point.kind,
                point.size_x,
                point.size_y,
                point.is_round,
                point.rotation - pad.rotation,
                plain,
                high,
            )
        )
    first = project.load_point(pad.load_point)
    apart = tuple(
        (round(project.load_point(n).x - first.x, 4), round(project.load_point(n).y - first.y, 4)) for n in pad.further
    )
    return (
        own,
        tuple(standing),
        apart,
        settings.concrete_cover,
        settings.outer_bars,
        settings.bar_ends,
        settings.base_concrete,
        settings.concrete_strength,
        settings.steel_strength,
    )


def kinds_built(project: Project) -> tuple[Kind, ...]:
    """The bases by what is built: under the name of their type where all of a type are alike, else F1, F2 ...; rafts by
    their own name."""
    alike: dict[Any, list[Pad]] = {}
    for pad in project.pads:
        key: Any = pad.name if pad.kind == "raft" else (pad.type, repr(_built(project, pad)))
        alike.setdefault(key, []).append(pad)
    groups = list(alike.values())
    of_type: dict[str, int] = {}
    for members in groups:
        if members[0].type:
            of_type[members[0].type] = of_type.get(members[0].type, 0) + 1
    taken = {p.type for p in project.pads if p.type} | {p.name for p in project.pads}
    found, number = [], 0
    prefix = next((x for x in PREFIXES if not any(re.fullmatch(rf"{x}\d+", n) for n in taken)), "Type ")
    for members in groups:
        first = members[0]
        if first.kind == "raft":
            name = first.name
        elif first.type and of_type[first.type] == 1:
            name = first.type
        else:
            number += 1
            name = f"{prefix}{number}"
        found.append(Kind(name, tuple(members)))
    return tuple(found)


def kind_of(kinds: tuple[Kind, ...]) -> dict[str, str]:
    """The name of its kind, by base."""
    return {pad.name: kind.name for kind in kinds for pad in kind.members}
