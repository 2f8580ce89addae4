"""Loads from tables: columns recognised, what is not clear asked for, values read with their units, compared, taken
over."""
