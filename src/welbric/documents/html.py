"""Blocks as HTML: workings with MathML, and tables; every text is escaped."""

from __future__ import annotations

import base64
import html

from welbric.documents.blocks import (
    Abreast,
    Block,
    Cell,
    Chapter,
    Contents,
    Cover,
    Document,
    Drawing,
    Notes,
    Pairs,
    Paragraph,
    Section,
    Steps,
    Style,
    Table,
    Title,
    Verdict,
    Words,
)
from welbric.documents.plain import pairs_in_line
from welbric.errors import seen
from welbric.units import DisplayUnits
from welbric.working import Entry, Given, Heading, Note, Step
from welbric.working.typeset import MATHML, given_math, write_condition, write_step

CHANGED = "data-changed='' title='changed since the earlier results'"
COLOURS: dict[Style, str] = {"good": "#1b6e53", "bad": "#b3261e", "unsure": "#8a6d00"}
PAGE_STYLE = """
body { max-width: 56rem; margin: 2rem auto; padding: 0 1rem; color: #1f2d3a;
       font: 16px/1.45 "Source Serif 4", Charter, Georgia, serif; }
h2 { border-bottom: 2px solid #1f2d3a; } h3 { margin-top: 2rem; border-bottom: 1px solid #c9d6d3; }
h4, h5 { margin-bottom: 0.3rem; font-size: 1em; font-weight: 600; } math { font-size: 1.05em; }
mtd { padding: 0.15em 0.1em; }
p.step { display: flex; justify-content: space-between; gap: 2rem; margin: 0.35rem 0; }
p.step > span { color: #56707a; white-space: nowrap; } p.verdict { font-weight: bold; }
"""

BOOK_STYLE = """
table { border-collapse: collapse; font-size: 0.85em; } th, td { padding: 0.15em 0.6em; }
thead th { border-bottom: 1px solid #1f2d3a; } nav ul { list-style: none; padding: 0; }
li.of2 { padding-left: 1.5em; } figure { margin: 1em 0; } figure svg { width: 100%; height: auto; }
[data-changed] { box-shadow: -0.45em 0 0 #8a6d00; } header img { max-height: 5em; }
h2 small, h3 small, h4 small { float: right; font-weight: normal; color: #56707a; }
div.abreast { display: flex; gap: 2em; align-items: start; break-inside: avoid; }
div.abreast figure { flex: 0 0 auto; }
p.warning { position: sticky; top: 0; margin: 0; padding: 0.4em; background: #fff3cd;
  border: 1px solid #8a6d00; }
@media print { p.warning { position: fixed; }
  h2 { break-before: page; } h3, h4 { break-after: avoid; }
  thead { display: table-header-group; } figure { break-inside: avoid; } }
"""


def as_html(document: Document) -> str:
    """Return a document as an HTML fragment."""
    return seen("\n".join(filter(None, (_block(block) for block in document))))


def page(document: Document) -> str:
    """Return a document as a whole HTML page."""
    title = next((html.escape(seen(b.text)) for b in document if isinstance(b, Title)), "")
    return (
        f"<!DOCTYPE html>\n<html lang='en'><head><meta charset='utf-8'><title>{title}</title>"
        f"<style>{PAGE_STYLE}</style></head>\n<body><section>{as_html(document)}</section></body>"
        "</html>\n"
    )


def _block(block: Block) -> str:
    match block:
        case Title():
            return f"<h2>{html.escape(block.text)}</h2>"
        case Pairs():
            return f"<p>{html.escape(pairs_in_line(block))}</p>"
        case Notes():
            items = "".join(f"<li>{html.escape(note)}</li>" for note in block.notes)
            return f"<ul>{items}</ul>" if items else ""
        case Section():
            return f"<h3>{html.escape(block.title)} ({html.escape(block.clause)})</h3>"
        case Paragraph():
            return f"<p>{_runs(block.words)}</p>"
        case Steps():
            return "\n".join(
                _entry(
                    e, block.show, block.level + 2, block.anchors.get(i, ""), block.links.get(i, "")
                )
                for i, e in enumerate(block.entries)
            )
        case Verdict():
            return f"<p class='verdict'>{html.escape(block.text)}</p>"
        case Table():
            return _table(block)
        case Cover():
            rows = "".join(
                f"<tr><th scope='row'>{html.escape(name)}</th><td>{html.escape(value)}</td></tr>"
                for name, value in block.pairs
            )
            logo = ""
            if block.logo is not None:
                data = base64.b64encode(block.logo.content).decode()
                logo = f"<img alt='logo' src='data:image/{block.logo.kind};base64,{data}'>"
            head = f"<h1>{html.escape(block.title)}</h1><p>{html.escape(block.subtitle)}</p>"
            head = logo + head
            return f"<header>{head}<table>{rows}</table></header>"
        case Contents():
            return ""  # the page puts it, which knows its chapters
        case Chapter():
            tag = f"h{block.level + 1}"
            anchor = f" id='{html.escape(block.anchor)}'" if block.anchor else ""
            beside = f" <small>{html.escape(block.beside)}</small>" if block.beside else ""
            changed = f" {CHANGED}" if block.changed else ""
            return f"<{tag}{anchor}{changed}>{html.escape(block.title)}{beside}</{tag}>"
        case Abreast():
            return f"<div class='abreast'>{_block(block.left)}{_block(block.right)}</div>"
        case Drawing():
            svg = block.svg[block.svg.index("<svg") :]
            words = html.escape(block.words)
            size = f" style='width:{block.share:.0%}'" if block.share < 1.0 else ""
            return f"<figure role='img' aria-label='{words}'{size}>{svg}</figure>"


def book(document: Document, title: str, said: str = "") -> str:
    """Return a book as one HTML page that needs nothing else, with its contents.

    ``said`` stands at its top and stays in view.
    """
    chapters = [b for b in document if isinstance(b, Chapter) and b.anchor and b.level < 3]
    items = ""
    for one in chapters:
        words = html.escape(seen(one.title))
        items += f"<li class='of{one.level}'><a href='#{html.escape(one.anchor)}'>{words}</a></li>"
    contents = f"<nav aria-label='Contents'><ul>{items}</ul></nav>"
    body = []
    for block in document:
        if isinstance(block, Paragraph) and block.is_gap:
            continue
        body.append(contents if isinstance(block, Contents) else seen(_block(block)))
    return (
        "<!DOCTYPE html>\n<html lang='en'><head><meta charset='utf-8'>"
        f"<title>{html.escape(seen(title))}</title><style>{PAGE_STYLE}{BOOK_STYLE}</style></head>\n"
        f"<body>{_warning(said)}<main>{chr(10).join(body)}</main></body></html>\n"
    )


def _warning(said: str) -> str:
    return f"<p class='warning' role='note'>{html.escape(seen(said))}</p>" if said else ""


def _runs(cell: Cell) -> str:
    if isinstance(cell, str):
        return html.escape(cell)
    runs = (cell,) if isinstance(cell, Words) else cell
    return "".join(_run(run) for run in runs)


def _run(run: Words) -> str:
    text = html.escape(run.text)
    if run.link:
        text = f"<a href='#{html.escape(run.link)}'>{text}</a>"
    if run.style in COLOURS:
        return f"<span style='font-weight:bold;color:{COLOURS[run.style]}'>{text}</span>"
    return f"<b>{text}</b>" if run.style == "strong" else text


def _table(table: Table) -> str:
    def cells(tag: str, row: tuple[Cell, ...], changed: bool = False) -> str:
        written = []
        for column, cell in zip(table.columns, row, strict=True):
            side = "right" if column.right else "left"
            scope = " scope='col'" if tag == "th" else ""
            written.append(f"<{tag}{scope} style='text-align:{side}'>{_runs(cell)}</{tag}>")
        return f"<tr{f' {CHANGED}' if changed else ''}>{''.join(written)}</tr>"

    title = f"<caption style='text-align:left'>{html.escape(table.title)}</caption>"
    head = cells("th", tuple(column.heading for column in table.columns))
    body = "".join(cells("td", row, i in table.changed) for i, row in enumerate(table.rows))
    return (
        f"<table>{title if table.title else ''}<thead>{head}</thead><tbody>{body}</tbody></table>"
    )


def _entry(entry: Entry, show: DisplayUnits, level: int, anchor: str = "", link: str = "") -> str:
    match entry:
        case Heading():
            clause = f" ({entry.clause})" if entry.clause else ""
            words = html.escape(entry.title + clause)
            words = f"<a href='#{link}'>{words}</a>" if link else words
            own = f" id='{anchor}'" if anchor else ""
            return f"<h{level}{own}>{words}</h{level}>"
        case Note():
            return f"<p>{html.escape(entry.text)}</p>"
        case Given():
            math = given_math(entry, MATHML, show, "<math>", "</math>")
            return f"<p class='step'>{math}<span>{html.escape(entry.source)}</span></p>"
        case Step() if entry.formula.symbol is None:
            clause = html.escape(entry.formula.clause)
            condition = write_condition(entry, MATHML, show)
            return (
                f"<p class='step'><math><mtext>since&ensp;</mtext>{condition}</math>"
                f"<span>{clause}</span></p>"
            )
    line = write_step(entry, MATHML, show)
    left = "<mtd style='text-align:left'>"
    equals = f"</mtd></mtr><mtr><mtd></mtd><mtd><mo>=</mo></mtd>{left}".join(line.equals)
    table = (
        f"<mtable displaystyle='true'><mtr><mtd>{line.symbol}</mtd>"
        f"<mtd><mo>=</mo></mtd>{left}{equals}</mtd></mtr></mtable>"
    )
    return (
        f"<p class='step'><math displaystyle='true'>{table}</math>"
        f"<span>{html.escape(line.clause)}</span></p>"
    )
