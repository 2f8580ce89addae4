"""Invented example projects."""

from korbent.demo.lindmere import lindmere

__all__ = ["lindmere"]
