"""Bearing resistance by named methods, each with exactly the factors its author gave. A method is one module and one
line here."""

from korbent.core.bearing.methods import annex_d, hansen, meyerhof, terzaghi, vesic
from korbent.core.bearing.methods.method import Footing, Method, Ultimate

METHODS: dict[str, Method] = {method.NAME: method for method in (terzaghi, meyerhof, hansen, vesic, annex_d)}
"""The methods by name, in the order of their publication."""

__all__ = ["METHODS", "Footing", "Method", "Ultimate"]
