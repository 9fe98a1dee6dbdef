"""Blocks of cells as text: what is pasted into a sheet, and what is copied out of one."""

from __future__ import annotations

import re

from theoros.files.grid import GUARD, Lines, has_header
from theoros.files.lines_of_cells import lines_of_cells


def paste_block(text: str) -> tuple[tuple[str, ...], ...]:
    """What is pasted from a spreadsheet, as rows of cells: tabs between them, quotes honoured.

    Numbers are given with a decimal point, whichever way they were written there.
    """
    if not text:
        return ()
    lines = lines_of_cells(text.replace("\r\n", "\n").removesuffix("\n"), "\t")
    thousands = _parts_thousands(lines)
    return tuple(tuple(_pasted(cell, thousands) for cell in line) or ("",) for line in lines)


def _parts_thousands(lines: Lines) -> bool:
    """Whether commas in these cells part thousands: some number shows it, and none denies it."""
    cells = [cell.strip() for line in lines for cell in line if "," in cell or "." in cell]
    parted = [c for c in cells if re.fullmatch(r"[-+−]?\d{1,3}(,\d{3})+(\.\d+)?", c)]
    decimal = [c for c in cells if re.fullmatch(r"[-+−]?\d+,(\d{1,2}|\d{4,})", c)]
    pointed = [c for c in cells if re.fullmatch(r"[-+−]?[\d,]*\.\d+", c)]
    sure = any(c.count(",") > 1 or "." in c for c in parted)
    return bool(parted) and not decimal and (sure or bool(pointed))


def _pasted(cell: str, thousands: bool) -> str:
    if thousands and re.fullmatch(r"\s*[-+−]?\d{1,3}(,\d{3})+(\.\d+)?\s*", cell):
        return cell.replace(",", "")
    return re.sub(GUARD, r"\1", cell)


def block_has_header(block: Lines) -> bool:
    """Whether the first row of a pasted block names its columns."""
    return has_header([list(line) for line in block])
