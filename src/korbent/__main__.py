"""``python -m korbent``."""

import gc
import os

# what is loaded at the start stays: looking through it again and again for garbage takes a tenth of the time
gc.set_threshold(100_000, 50, 100)

# the matrices of most checks are small: more threads only wait for each other
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
# nobody adds to the model from outside: looking for who might takes a while
os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "__all__")

from korbent.cli import main  # noqa: E402

main()
