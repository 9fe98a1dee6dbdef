"""The repository's own files: lock, licence, desktop entry, pictures, notes."""

from __future__ import annotations

import configparser
import re
import subprocess
import xml.etree.ElementTree as ET
from pathlib import Path

from theoros.study.file import SUFFIX

ROOT = Path(__file__).parents[1]


def test_the_lock_holds_plain_exact_versions() -> None:
    lines = (ROOT / "requirements.lock").read_text().splitlines()
    assert len(lines) > 10
    for line in lines:
        assert re.fullmatch(r"[A-Za-z0-9_.-]+==[A-Za-z0-9.]+", line), line


def test_the_desktop_entry_and_the_mime_type_agree() -> None:
    entry = configparser.ConfigParser(interpolation=None)
    entry.optionxform = str  # type: ignore[assignment]
    entry.read(ROOT / "packaging/theoros.desktop")
    kinds = entry["Desktop Entry"]["MimeType"].strip(";").split(";")
    root = ET.parse(ROOT / "packaging/theoros-mime.xml").getroot()
    space = "{http://www.freedesktop.org/standards/shared-mime-info}"
    kind = root.find(f"{space}mime-type")
    assert kind.get("type") in kinds
    assert kind.find(f"{space}glob").get("pattern") == f"*{SUFFIX}"


def test_every_picture_is_linked_and_every_link_leads_somewhere() -> None:
    readme = (ROOT / "README.md").read_text()
    pictures = sorted((ROOT / "docs/screenshots").glob("*.png"))
    assert 0 < len(pictures) < 20
    for picture in pictures:
        assert f"docs/screenshots/{picture.name}" in readme
    for link in re.findall(r"\]\(([^)#:]+)\)", readme):
        assert (ROOT / link).exists(), link


def test_the_icon_is_well_formed_and_ours() -> None:
    root = ET.parse(ROOT / "src/theoros/desk/theoros.svg").getroot()
    assert root.get("viewBox") == "0 0 64 64"


def test_fonts_come_with_their_licences() -> None:
    fonts = {path.name for path in (ROOT / "src/theoros/fonts").iterdir()}
    assert {"SourceSans3-LICENSE.md", "SourceSerif4-LICENSE.md"} <= fonts


def test_the_run_script_explains_itself() -> None:
    done = subprocess.run([ROOT / "run"], capture_output=True, text=True, check=False)
    assert done.returncode == 2
    for command in ("demo", "app", "test", "shots", "bench", "docs"):
        assert f"./run {command}" in done.stderr
