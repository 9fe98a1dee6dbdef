"""The fonts that ship with the application, and where they lie."""

from pathlib import Path

FONTS = Path(__file__).parent
