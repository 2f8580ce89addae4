"""``python -m korbent``."""

from korbent.entry import main

main()
