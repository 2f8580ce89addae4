"""Width and length of a base that change together."""

from typing import Literal

from korbent.core.model.foundations import Pad

Link = Literal["apart", "together", "in proportion"]
LINKS: tuple[Link, ...] = ("apart", "together", "in proportion")
LINKED = ("width", "length")


def can_link(pad: Pad) -> bool:
    """Of a base with two sizes that may differ; not of a raft, whose steps are looked at one by one."""
    return pad.shape == "rectangle" and not pad.outline and pad.plate is None


def linked(pad: Pad, dimension: str, value: float, link: Link) -> dict[str, float]:
    """The sizes that a base has once one of them is given: by as much more or less (all four edges move alike where no
    edge is held), or in the same proportion."""
    if link == "apart" or dimension not in LINKED or not can_link(pad):
        return {dimension: value}
    other = LINKED[1 - LINKED.index(dimension)]
    now, beside = float(getattr(pad, dimension)), float(getattr(pad, other))
    size = beside + value - now if link == "together" else beside * value / now
    return {dimension: value, other: round(size, 9)}
