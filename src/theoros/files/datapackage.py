"""Frictionless data packages: a descriptor with CSV files beside it, in a folder or a zip."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from pathlib import Path, PurePosixPath
from typing import Any

from theoros.files import delimited, json_text
from theoros.files.errors import ReadError, reason
from theoros.files.form import Form, Opened
from theoros.files.formats import EVERYTHING, Format
from theoros.files.regular import check_file
from theoros.files.table_schema import about_from, about_json, column_from, column_json
from theoros.files.unpacking import check_zip, write_zip
from theoros.lazy_imports import pl
from theoros.table.kinds import Kind
from theoros.table.recalculation import settled
from theoros.table.table import Table, TableError

NAME = "datapackage.json"
MOST_JSON = 100_000_000
"""Bytes of a descriptor."""


@dataclass(frozen=True)
class Package:
    """A descriptor, and where the data lie."""

    path: Path
    descriptor: Mapping[str, Any]

    @property
    def resources(self) -> list[Mapping[str, Any]]:
        found = _list(self.descriptor.get("resources"))
        return [one for one in found if isinstance(one, dict) and isinstance(one.get("path"), str)]

    @property
    def sheets(self) -> tuple[str, ...]:
        """The names of its tables."""
        return tuple(_name(one) for one in self.resources)

    def data(self, resource: Mapping[str, Any]) -> bytes:
        """The bytes of a resource. Raises ReadError; paths that lead outside are refused."""
        inner = PurePosixPath(str(resource["path"]))
        if inner.is_absolute() or ".." in inner.parts or "://" in str(resource["path"]):
            raise ReadError(f"The package names a file outside of it ({inner}), which is not read.")
        if self.path.suffix.lower() == ".zip":
            return _from_zip(self.path, str(inner))
        file = self.path.parent / inner
        if not file.resolve().is_relative_to(self.path.parent.resolve()):
            raise ReadError(f"The package names a file outside of it ({inner}), which is not read.")
        return delimited.read_bytes(file)


def load(path: Path) -> Package:
    """A package by its descriptor or its zip. Raises ReadError."""
    check_file(path)
    zipped = path.suffix.lower() == ".zip"
    raw = _from_zip(path, NAME) if zipped else delimited.read_bytes(path)
    if len(raw) > MOST_JSON:
        raise ReadError(f"The descriptor in {path.name} is larger than any table's.")
    try:
        descriptor = json_text.load(raw)
    except (ValueError, RecursionError):
        raise ReadError(f"The descriptor in {path.name} is not valid JSON.") from None
    if not isinstance(descriptor, dict) or not Package(path, descriptor).resources:
        raise ReadError(f"{path.name} describes no table that lies in a file beside it.")
    return Package(path, descriptor)


def guess(package: Package) -> Form:
    """The first table of the package."""
    return Form(sheet=package.sheets[0])


def read(package: Package, form: Form, name: str, kinds: Mapping[int, Kind] | None = None) -> Opened:
    """A table of a package with the names, kinds and units that it describes. Raises ReadError."""
    wanted = form.sheet or package.sheets[0]
    resource = next((one for one in package.resources if _name(one) == wanted), None)
    if resource is None:
        raise ReadError(f"There is no table “{wanted}” in {package.path.name}.")
    source = delimited.delimited(package.data(resource))
    dialect = resource.get("dialect", {})
    dialect = dialect if isinstance(dialect, dict) else {}
    schema = resource.get("schema", {})
    schema = schema if isinstance(schema, dict) else {}
    fields, codes = _list(schema.get("fields")), _list(schema.get("missingValues", [""]))
    plain = replace(
        form,
        delimiter=str(dialect.get("delimiter", ","))[:1] or ",",
        header=1 if dialect.get("header", True) else 0,
        decimal_comma=any(isinstance(f, dict) and f.get("decimalChar") == "," for f in fields),
        missing=(*form.missing, *(str(code) for code in codes if isinstance(code, str) and code)),
        encoding=source.encoding,
    )
    try:
        columns = [column_from(field) for field in fields]
    except (ValueError, KeyError, TypeError, AttributeError):
        columns = []
    chosen = {at: column.kind for at, column in enumerate(columns)} | dict(kinds or {})
    opened = delimited.read(source, plain, wanted, chosen if columns else kinds)
    described = {column.name for column in columns}
    if len(described) != len(opened.table.columns) or len(columns) != len(described):
        note = "The columns are not those that the package describes, so their kinds were guessed."
        opened = delimited.read(source, plain, wanted, kinds)
        return replace(opened, form=form, notes=(*opened.notes, note) if columns else opened.notes)
    made = tuple(
        replace(column, kind=read_column.kind)
        for column, read_column in zip(columns, opened.table.columns, strict=True)
    )
    frame = pl.DataFrame([v.alias(c.name) for c, v in zip(made, opened.table.frame.get_columns(), strict=True)])
    notes = opened.notes
    try:
        about = about_from(resource)
        if any(not 0 <= row < frame.height for row in about["aside"]):
            about["aside"] = frozenset()
        table = settled(Table(wanted, made, frame, **about))
    except (ValueError, TypeError, AttributeError):
        table = Table(wanted, tuple(replace(c, formula="") for c in made), frame)
        notes = (*notes, "What the package says of its rows does not fit them, and is left out.")
    return replace(opened, table=table, form=form, notes=notes)


def write(table: Table, path: Path) -> None:
    """A zip with a descriptor and one CSV file. All that Theoros knows of the table is kept."""
    data = f"{_slug(table.name)}.csv"
    resource = {
        "name": _slug(table.name),
        "title": table.name,
        "type": "table",
        "path": data,
        "format": "csv",
        "mediatype": "text/csv",
        "encoding": "utf-8",
        **about_json(table),
        "schema": {
            "$schema": "https://datapackage.org/profiles/2.0/tableschema.json",
            "fields": [column_json(table, column) for column in table.columns],
            "missingValues": [""],
        },
    }
    descriptor = {
        "$schema": "https://datapackage.org/profiles/2.0/datapackage.json",
        "title": table.name,
        "resources": [resource],
    }
    described = json_text.dump(descriptor)
    write_zip(path, {NAME: described, data: delimited.table_bytes(_bare(table))})


def _bare(table: Table) -> Table:
    """Names without units, as the descriptor has them."""
    try:
        return table.with_(columns=tuple(replace(c, unit="") for c in table.columns))
    except TableError:
        return table


def _list(value: Any) -> list[Any]:
    """What is a list in the descriptor; nothing where another thing stands there."""
    return value if isinstance(value, list) else []


def _slug(name: str) -> str:
    import re

    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") or "table"


def _name(resource: Mapping[str, Any]) -> str:
    return str(resource.get("title") or resource.get("name") or resource["path"])


def _from_zip(path: Path, name: str) -> bytes:
    import zipfile
    import zlib

    try:
        with zipfile.ZipFile(path) as archive:
            found = [
                i
                for i in archive.infolist()
                if i.filename == name or (name == NAME and i.filename.endswith(f"/{NAME}"))
            ]
            if not found:
                raise ReadError(f"{path.name} has no {name}, so it is not a data package.")
            check_zip(archive, path)
            return archive.read(found[0])
    except (zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError, UnicodeDecodeError):
        raise ReadError(f"{path.name} is damaged or was not fully copied.") from None
    except OSError as problem:
        raise ReadError(f"{path.name} could not be opened ({reason(problem)}).") from None


FORMATS = (
    Format(
        "Frictionless data package",
        (".zip", NAME),
        load,
        guess,
        read,
        write,
        frozenset({"sheet", "missing"}),
        EVERYTHING,
        0,
    ),
)
