"""Zip files from anywhere: how far they may unpack, and writing some that stay within that."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import TYPE_CHECKING

from theoros.files.errors import ReadError
from theoros.files.form import LARGEST

if TYPE_CHECKING:
    import zipfile

ALWAYS = 20_000_000
"""Bytes that any file may unpack to."""
TIMES = 40
"""How many times its own size besides: text of tables packs to a tenth, rarely to a fortieth."""
MOST_MEMBERS = 20_000


def most_unpacked(size: int, times: int = TIMES) -> int:
    """Bytes that a file of `size` bytes may unpack to."""
    return min(LARGEST, ALWAYS + times * size)


def check_zip(archive: zipfile.ZipFile, path: Path, times: int = TIMES) -> None:
    """Raises ReadError for a zip that unpacks to more than a file of its size should."""
    infos = archive.infolist()
    if len(infos) > MOST_MEMBERS:
        raise ReadError(f"{path.name} holds {len(infos)} files, more than Theoros opens.")
    unpacked = sum(info.file_size for info in infos)
    if unpacked > most_unpacked(path.stat().st_size, times):
        raise ReadError(
            f"{path.name} unpacks to {unpacked / 1e6:.0f} MB, more than Theoros opens from a file "
            f"of its size. If you trust it, unpack it, and open the tables in it."
        )


def write_zip(target: Path, parts: Mapping[str, bytes]) -> None:
    """Writes a zip that `check_zip` will take: what packs too well is stored as it is."""
    import zipfile

    for method in (zipfile.ZIP_DEFLATED, zipfile.ZIP_STORED):
        with zipfile.ZipFile(target, "w", method) as archive:
            for name, data in parts.items():
                archive.writestr(name, data)
        if sum(map(len, parts.values())) <= most_unpacked(target.stat().st_size):
            return
