"""A base as a strip of unit length: one panel, and what it can show as faces."""
