"""Korbent: bearing, settlement, stability and concrete of shallow foundations."""

__version__ = "0.1.0"
