"""What is wrong with a project, and where."""

from typing import NamedTuple


class Problem(NamedTuple):
    """Something wrong with the data, and where."""

    place: str
    message: str

    def __str__(self) -> str:
        return f"{self.place}: {self.message}" if self.place else self.message
