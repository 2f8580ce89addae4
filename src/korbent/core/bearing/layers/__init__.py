"""Bearing resistance where other strata begin below the base: what lies there, each mechanism, and which is adopted."""
