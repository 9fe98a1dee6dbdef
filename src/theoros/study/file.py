"""The study file: the parts of a study in one zip, written atomically."""

from __future__ import annotations

import contextlib
import os
from collections.abc import Callable
from pathlib import Path

from theoros.study.entries import Study, StudyError
from theoros.study.package import Parts, read_parts, write_parts

SUFFIX = ".theoros"
LARGEST = 2_000_000_000
"""Bytes that the parts of a study may unpack to; more is taken for a mistake or a trap."""


def save_study(study: Study, path: Path) -> None:
    """Writes the study beside `path` and moves it there, so that no half-written file is left.

    Raises StudyError where it cannot be written; an earlier file there is then untouched.
    """
    write_atomically(path, lambda target: _write_zip(write_parts(study), target))


def write_atomically(path: Path, write: Callable[[Path], object]) -> None:
    """Calls `write(temporary path)`, syncs what it wrote and puts it in the place of `path`."""
    import tempfile

    temporary = None
    try:
        handle, temporary = tempfile.mkstemp(path.suffix, f".{path.stem}.", path.parent)
        os.close(handle)
        write(Path(temporary))
        with open(temporary, "rb") as written:
            os.fsync(written.fileno())
        mode = path.stat().st_mode & 0o777 if path.exists() else 0o666 & ~_umask()
        os.chmod(temporary, mode)
        os.replace(temporary, path)
        folder = os.open(path.parent, os.O_RDONLY)
        try:
            os.fsync(folder)
        finally:
            os.close(folder)
    except OSError as problem:
        if temporary:
            with contextlib.suppress(OSError):
                os.unlink(temporary)
        reason = (problem.strerror or str(problem)).lower()
        raise StudyError(
            f"{path.name} could not be written there ({reason}). Choose another place; nothing "
            f"was lost."
        ) from None


def open_study(path: Path) -> Study:
    """Reads a study file. Raises StudyError with what is wrong; nothing in it is executed."""
    try:
        return read_parts(_read_zip(path))
    except OSError as problem:
        reason = (problem.strerror or str(problem)).lower()
        raise StudyError(f"{path.name} could not be opened ({reason}).") from None


def open_folder(folder: Path, *, lazily: bool = False) -> Study:
    """Reads a study whose parts lie in a folder; `lazily` as for `read_parts`."""
    parts = {
        str(path.relative_to(folder)): path.read_bytes()
        for path in folder.rglob("*")
        if path.suffix in (".json", ".csv")
    }
    return read_parts(parts, lazily=lazily)


def demo_study() -> Study:
    """The study that ships with Theoros: the tea gardens of Orrin Ridge."""
    return open_folder(Path(__file__).parent.parent / "demo", lazily=True)


def _write_zip(parts: Parts, target: Path) -> None:
    import zipfile

    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in parts.items():
            archive.writestr(name, data)


def _read_zip(path: Path) -> Parts:
    import zipfile
    import zlib

    damaged = StudyError(
        f"{path.name} is damaged or was not fully copied. Look for another copy of it."
    )
    if path.stat().st_size == 0:
        raise StudyError(f"{path.name} is empty. Look for another copy of it.")
    if not zipfile.is_zipfile(path):
        with open(path, "rb") as start:
            looks_like_one = start.read(2) == b"PK"
        if looks_like_one:
            raise damaged
        raise StudyError(
            f"{path.name} is not a study of Theoros. To bring in a table, use Study › Open table."
        )
    try:
        with zipfile.ZipFile(path) as archive:
            infos = [info for info in archive.infolist() if not info.is_dir()]
            if sum(info.file_size for info in infos) > LARGEST:
                raise StudyError(f"{path.name} unpacks to more than Theoros opens (2 GB).")
            return {info.filename: archive.read(info) for info in infos}
    except (
        zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError,
        UnicodeDecodeError,  # a name in no encoding
    ):  # fmt: skip
        raise damaged from None


def _umask() -> int:
    current = os.umask(0)
    os.umask(current)
    return current
