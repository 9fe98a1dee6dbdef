"""The study file: the parts of a study in one zip, written atomically."""

from __future__ import annotations

from pathlib import Path

from theoros.files.errors import ReadError, reason
from theoros.files.regular import check_file
from theoros.files.unpacking import check_zip, write_zip
from theoros.study.atomic import write_atomically
from theoros.study.entries import Study, StudyError
from theoros.study.package import Parts, Reading, read_parts, reading_parts, whole, write_parts

SUFFIX = ".theoros"


def save_study(study: Study, path: Path) -> None:
    """Writes the study beside `path` and moves it there, so that no half-written file is left.

    Raises StudyError where it cannot be written; an earlier file there is then untouched.
    """
    write_atomically(path, lambda target: write_zip(target, write_parts(study)))


def open_study(path: Path) -> Study:
    """Reads a study file at once: see `reading_study`."""
    return whole(reading_study(path))


def reading_study(path: Path) -> Reading:
    """Reads a study file, and tells how far it has come.

    Raises StudyError with what is wrong; nothing in the file is executed.
    """
    try:
        check_file(path)
        return (yield from reading_parts(_read_zip(path)))
    except ReadError as problem:
        raise StudyError(str(problem)) from None
    except OSError as problem:
        raise StudyError(f"{path.name} could not be opened ({reason(problem)}).") from None


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


def _read_zip(path: Path) -> Parts:
    import zipfile
    import zlib

    damaged = StudyError(f"{path.name} is damaged or was not fully copied. Look for another copy of it.")
    if path.stat().st_size == 0:
        raise StudyError(f"{path.name} is empty. Look for another copy of it.")
    if not zipfile.is_zipfile(path):
        with open(path, "rb") as start:
            looks_like_one = start.read(2) == b"PK"
        if looks_like_one:
            raise damaged
        raise StudyError(f"{path.name} is not a study of Theoros. To bring in a table, use Study › Open table.")
    try:
        with zipfile.ZipFile(path) as archive:
            check_zip(archive, path)
            infos = [info for info in archive.infolist() if not info.is_dir()]
            return {info.filename: archive.read(info) for info in infos}
    except (
        zipfile.BadZipFile,
        zlib.error,
        EOFError,
        NotImplementedError,
        RuntimeError,
        UnicodeDecodeError,  # a name in no encoding
        IndexError,  # no name at all
    ):
        raise damaged from None
