"""Tables of what samples are in figures."""

from __future__ import annotations

import math

from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, cell
from theoros.answer.wording import between_data, data_decimals, exact, number, significant
from theoros.verbs.data.samples import Measured


def samples_table(data: Measured) -> ResultTable:
    """n, centre and spread of each sample; typed figures as they were typed."""
    return _typed(data) if data.typed else _from_rows(data)


def _from_rows(data: Measured) -> ResultTable:
    rows = []
    for sample in data.listed:
        s = sample.summary
        finer = data_decimals(data.decimals, s.n)
        beyond = tuple(int(sample.rows[at]) for at in sample.outliers)
        rows.append(
            FigureRow(
                (
                    Cell(sample.label, sample.label),
                    cell(s.n),
                    cell(s.mean, number(s.mean, finer)),
                    cell(s.sd, number(s.sd, finer)),
                    cell(s.median, between_data(s.median, data.decimals)),
                    cell(s.iqr, between_data(s.iqr, data.decimals)),
                    cell(len(beyond), rows=beyond),
                )
            )
        )
    headings = (
        Heading("group", "Group", numeric=False),
        Heading("n", "n"),
        Heading("mean", "mean"),
        Heading("sd", "SD"),
        Heading("median", "median"),
        Heading("iqr", "IQR"),
        Heading("outliers", "outliers", help="Values outside a fence"),
    )
    return ResultTable("samples", headings, tuple(rows))


def _typed(data: Measured) -> ResultTable:
    rows = []
    for sample in data.samples:
        s = sample.summary
        error = s.sd / math.sqrt(s.n)
        cells = (cell(s.n), cell(s.mean, exact(s.mean)), cell(s.sd, exact(s.sd)))
        last = cell(error, significant(error, 4))
        rows.append(FigureRow((Cell(sample.label, sample.label), *cells, last)))
    headings = (
        Heading("group", "Group", numeric=False),
        Heading("n", "n"),
        Heading("mean", "mean"),
        Heading("sd", "SD"),
        Heading("se", "standard error", help="SD / √n"),
    )
    return ResultTable("samples", headings, tuple(rows))
