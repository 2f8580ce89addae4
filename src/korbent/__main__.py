"""``python -m korbent``."""

from korbent.cli import main

main()
