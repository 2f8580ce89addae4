"""A worker process: reads jobs from its standard input and writes what they tell and give to its standard output.

Each message is a length (8 bytes, big end first) and a pickle. It ends when its input does: with the program that
started it."""

import os
import pickle
import struct
import sys
import traceback
from queue import SimpleQueue
from threading import Thread
from typing import Any, BinaryIO

LENGTH = struct.Struct(">Q")


def framed(message: Any) -> bytes:
    """A message as it travels."""
    body = pickle.dumps(message, pickle.HIGHEST_PROTOCOL)
    return LENGTH.pack(len(body)) + body


def _read(stream: BinaryIO) -> Any:
    """The next message; None at the end."""
    head = stream.read(LENGTH.size)
    if len(head) < LENGTH.size:
        return None
    return pickle.loads(stream.read(LENGTH.unpack(head)[0]))


def main() -> None:
    """Does the jobs one after the other."""
    out = os.fdopen(os.dup(1), "wb")
    os.dup2(2, 1)  # what is printed must not come between
    jobs: SimpleQueue[Any] = SimpleQueue()
    left: set[int] = set()
    """Jobs that are not wanted any more."""

    def listen() -> None:
        while (message := _read(sys.stdin.buffer)) is not None:
            if message[0] == "stop":
                left.add(message[1])
            else:
                jobs.put(message)
        jobs.put(None)
        os._exit(0)  # in the middle of a job too: nobody waits for it any more

    # before messages are read: what they bring is of the modules that this needs
    from korbent.jobs import JOBS

    Thread(target=listen, daemon=True).start()

    def tell(*message: Any) -> None:
        out.write(framed(message))
        out.flush()

    while (job := jobs.get()) is not None:
        _, number, name, args = job
        try:
            result = JOBS[name](
                *args, told=lambda *what, n=number: tell("told", n, what), stop=lambda n=number: n in left
            )
            tell("done", number, result)
        except Exception as error:
            tell("failed", number, f"{type(error).__name__}: {error}\n{traceback.format_exc()}")
        left.discard(number)


if __name__ == "__main__":
    main()
