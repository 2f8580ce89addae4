"""The tables of the ground as CSV and XLSX files, out and in: soils, boreholes, strata, tests, oedometer steps and
readings, lines over level, water and surfaces, and what is noted on any of their values.

A table is recognised by its columns, whatever it is called. Numbers carry the unit of their header; those of a file
that Korbent wrote come back exactly.
"""

from korbent.files.ground_tables.read import read_any, read_ground
from korbent.files.ground_tables.write import ground_tables, write_ground

__all__ = ["ground_tables", "read_any", "read_ground", "write_ground"]
