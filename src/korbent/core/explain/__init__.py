"""What stands behind a result: its working, its situations, what acts on the base, other ways to the same number."""
