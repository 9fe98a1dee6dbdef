"""Text as it can stand in HTML, SVG and MathML."""

from __future__ import annotations

import html

from theoros.table.plain_text import in_xml


def escaped(text: str, *, quote: bool = True) -> str:
    """Text that nothing in it makes markup, and that every page can hold."""
    return html.escape(in_xml(text), quote=quote)
