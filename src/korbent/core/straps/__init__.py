"""Straps: a beam that ties a base at a boundary to an inner one."""
