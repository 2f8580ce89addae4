"""``python -m korbent``."""

import os

# the matrices of most checks are small: more threads only wait for each other
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

from korbent.cli import main

main()
