"""The report as one self-contained HTML page: text, sentences, pictures, figures, readings."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

from theoros.answer.digits import using
from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.written import to_mathml
from theoros.answer.markup import escaped
from theoros.answer.parts import MARK_WORDS, MARKS, Answer, ResultTable, Section, Step
from theoros.answer.picture import Picture
from theoros.answer.static import lay_out_static
from theoros.answer.svg import to_svg
from theoros.answer.wording import to_html
from theoros.study.entries import Entry, EntryBlock, Study, TextBlock
from theoros.study.report_fonts import font_faces
from theoros.study.report_parts import main_figures, other_ways, shown
from theoros.verbs.core.answering import answer

SIZE = (760, 380)
SLIM_SIZE = (760, 130)


def report_html(study: Study, answer_of: Callable[[Entry], Answer] | None = None) -> str:
    """The whole report. `answer_of` hands over answers already known; else they are worked out."""
    find = answer_of or partial(_answered, study)
    title = escaped(study.title or "Report")
    parts = []
    for block in study.report:
        if isinstance(block, TextBlock):
            parts.append(text_html(block.text))
        elif isinstance(block, EntryBlock):
            entry = study.entry(block.entry)
            name = entry.name(study.by_name)
            parts.append(entry_html(name, entry.question, find(entry), block.parts))
    body = "\n".join(parts) or "<p>Nothing has been placed in this report yet.</p>"
    return (
        f'<!doctype html>\n<html lang="en">\n<head>\n<meta charset="utf-8">\n'
        f'<meta name="viewport" content="width=device-width">\n<title>{title}</title>\n'
        f"<style>\n{font_faces(title + body)}{_STYLE}</style>\n</head>\n<body>\n<main>\n"
        f"<h1>{title}</h1>\n{body}\n"
        f"</main>\n</body>\n</html>\n"
    )


def _answered(study: Study, entry: Entry) -> Answer:
    with using(study.digits):
        return answer(entry.statement, study.by_name)


def text_html(text: str) -> str:
    """The student's text: paragraphs by blank lines; a lone short line before text is a heading."""
    blocks = [block.strip() for block in text.replace("\r\n", "\n").split("\n\n") if block.strip()]
    made = []
    for at, block in enumerate(blocks):
        heading = "\n" not in block and len(block) <= 80 and block[-1] not in ".!?:;," and at + 1 < len(blocks)
        tag = "h2" if heading else "p"
        made.append(f"<{tag}>{escaped(block).replace(chr(10), '<br>')}</{tag}>")
    return "\n".join(made)


@dataclass(frozen=True)
class Means:
    """How pictures and formulas get into a page."""

    picture: Callable[[Picture], str]
    formula: Callable[[Formula], str]


def _svg(picture: Picture) -> str:
    return to_svg(lay_out_static(picture, *(SLIM_SIZE if picture.slim else SIZE)), picture.alt)


WEB = Means(_svg, to_mathml)


def entry_html(
    title: str, question: str, found: Answer, chosen: tuple[str, ...] | None = None, means: Means = WEB
) -> str:
    """An entry: its question, its sentence, and the parts that were chosen or suit it."""
    has = shown(found, chosen)
    parts = ["<section>", f"<h2>{escaped(title)}</h2>"]
    if question:
        parts.append(f'<p class="question">{escaped(question)}</p>')
    if found.problem:
        parts.append(f"<p>{escaped(found.caption)}</p>")
        parts.append(f'<p class="problem">{escaped(found.problem.sentence)}</p></section>')
        return "\n".join(parts)
    if "picture" in has:
        parts += [section_html(section, means) for section in found.above]
    if found.picture and "picture" in has:
        drawn, caption = means.picture(found.picture), escaped(found.caption)
        parts.append(f"<figure>{drawn}<figcaption>{caption}</figcaption></figure>")
    else:
        parts.append(f"<p>{escaped(found.caption)}</p>")
    if "hypotheses" in has:
        said = " &emsp; ".join(to_html(s.text) for s in found.symbols if not s.tone)
        parts.append(f'<p class="symbols">{said}</p>')
    if "figures" in has:
        parts += [section_html(section, means) for section in found.sections]
        parts += [figures_html(figures) for figures in main_figures(found)]
    if "other ways" in has:
        parts += [figures_html(figures) for figures in other_ways(found)]
    parts.append(reading_html(found, has))
    if "working" in has:
        parts += [step_html(step, means) for step in found.working]
    if "five steps" in has:
        parts += [step_html(step, means) for step in found.writeup]
    if found.left_out:
        parts.append(f'<p class="note">{escaped("; ".join(found.left_out))}.</p>')
    return "\n".join([*parts, "</section>"])


def section_html(section: Section, means: Means = WEB) -> str:
    """A section without its controls: there is nothing to press in a report."""
    parts = [f"<h3>{to_html(section.title)}</h3>"] if section.title else []
    if section.picture:
        parts.append(f"<figure>{means.picture(section.picture)}</figure>")
    if section.note:
        parts.append(f'<p class="note">{to_html(section.note)}</p>')
    parts += [figures_html(figures) for figures in section.figures]
    return "\n".join(parts)


def figures_html(figures: ResultTable, written: Callable[[str], str] = str) -> str:
    """Figures as an HTML table, numbers to the right; `written` may change the texts of cells."""
    head = "".join(f'<th class="{_side(h.numeric)}">{to_html(h.label)}</th>' for h in figures.headings)
    rows = []
    for row in figures.filled:
        cells = "".join(
            f'<td class="{_side(heading.numeric)}">{to_html(written(cell.text))}</td>'
            for heading, cell in zip(figures.headings, row.cells, strict=True)
        )
        rows.append(f"<tr{' class=chosen' if row.chosen else ''}>{cells}</tr>")
    return f"<table><thead><tr>{head}</tr></thead><tbody>{''.join(rows)}</tbody></table>"


def reading_html(found: Answer, has: tuple[str, ...]) -> str:
    """What is shown of the reading: headline and paragraphs, conditions, cautions."""
    reading = found.reading
    parts = []
    if "reading" in has:
        if reading.headline:
            parts.append(f'<p class="headline">{to_html(reading.headline)}</p>')
        parts += [f"<p>{to_html(text)}</p>" for text in reading.paragraphs]
    if "conditions" in has:
        items = "".join(
            f'<li><span title="{MARK_WORDS[c.mark]}">{MARKS[c.mark]}</span> {to_html(c.text)}</li>'
            for c in reading.assumptions
        )
        parts.append(f"<h3>{escaped(reading.assumptions_title)}</h3><ul>{items}</ul>")
    if "cautions" in has:
        parts += [f'<p class="note">{to_html(text)}</p>' for text in reading.cautions]
    return "\n".join(parts)


def step_html(step: Step, means: Means = WEB) -> str:
    """One step of a working or a write-up."""
    lines = "".join(
        means.formula(line) if isinstance(line, Formula) else f"<p>{to_html(line)}</p>" for line in step.lines
    )
    return f'<div class="step"><h3>{escaped(step.title)}</h3>{lines}</div>'


def _side(numeric: bool) -> str:
    return "n" if numeric else "t"


_STYLE = """
body { background: #FFFDF8; color: #22302F; margin: 0;
  font: 16px/1.5 'Source Sans 3', 'Source Sans Pro', 'Helvetica Neue', Arial, sans-serif; }
main { max-width: 780px; margin: 2rem auto; padding: 0 1rem; }
h1, h2, .headline, figcaption, .question { font-family: 'Source Serif 4', Georgia, serif; }
h1 { font-size: 1.8rem; } h2 { font-size: 1.35rem; margin-top: 2rem; }
h3 { font-size: 1rem; margin: 1rem 0 .2rem; }
section { border-top: 1px solid #DDD6C7; } figure { margin: 1rem 0; }
figure svg { width: 100%; height: auto; } figcaption { color: #66716C; font-size: .95rem; }
.question { font-style: italic; color: #66716C; } .headline { font-size: 1.2rem; }
.symbols { font-size: 1.05rem; } .note { color: #66716C; font-size: .92rem; }
.problem { color: #B04424; }
table { border-collapse: collapse; margin: 1rem 0; font-variant-numeric: tabular-nums; }
th { color: #66716C; font-size: .85rem; } th, td { padding: .3rem .7rem;
  border-bottom: 1px solid #DDD6C7; } .n { text-align: right; } .t { text-align: left; }
tr.chosen { background: #E5EEE9; } ul { list-style: none; padding: 0; }
.step p { margin: 0; }
math { font-size: 1.1rem; margin: .3rem 0 .3rem 1.2rem; }
math[display=block] { display: block math; text-align: left; width: fit-content; }
@media print { section { break-inside: avoid; } }
"""
