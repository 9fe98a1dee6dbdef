"""What a reader says of a file that is no table."""

from __future__ import annotations

MOST_LETTERS = 120


class ReadError(ValueError):
    """A file that cannot be read as a table, with what is wrong and what to do."""


def reason(problem: BaseException) -> str:
    """What a library or the system says, on one line and not endless, to stand in brackets."""
    said = problem.strerror if isinstance(problem, OSError) and problem.strerror else str(problem)
    line = " ".join(said.split())
    line = line.lower() if isinstance(problem, OSError) else line
    return brief(line) or type(problem).__name__


def brief(text: str, most: int = MOST_LETTERS) -> str:
    """A text from a file as it can stand in a sentence: not longer than a line."""
    return text if len(text) <= most else text[: most - 1].rstrip() + "…"
