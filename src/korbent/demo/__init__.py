"""Invented example projects."""

from collections.abc import Callable

from korbent.core.model import Project
from korbent.demo.coombe import coombe
from korbent.demo.hollin import hollin
from korbent.demo.lindmere import lindmere
from korbent.demo.redstem import redstem

DEMOS: dict[str, Callable[[], Project]] = {
    "lindmere": lindmere,
    "redstem": redstem,
    "coombe": coombe,
    "hollin": hollin,
}
"""The examples by their short name."""

__all__ = ["DEMOS", "coombe", "hollin", "lindmere", "redstem"]
