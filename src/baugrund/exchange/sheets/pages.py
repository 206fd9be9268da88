"""Pages: HTML in the look of the house, written as PDF by WeasyPrint.  Nothing is fetched but own fonts."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterator, Sequence
from datetime import date
from functools import lru_cache
from html import escape
from pathlib import Path
from typing import TypeVar

from PIL import ImageFile
from weasyprint import CSS, HTML
from weasyprint.text.fonts import FontConfiguration
from weasyprint.urls import URLFetcher

from baugrund.core.watch import Share, tell

# WeasyPrint lets damaged pictures pass in the whole program; those that come in are checked to the last byte
ImageFile.LOAD_TRUNCATED_IMAGES = False

FONTS = {"Archivo": "archivo-latin-wdth-normal*.woff2", "Source Serif 4": "source-serif-4-latin-wght-normal*.woff2"}
LOOK = """
@page {
  size: A4; margin: 16mm 14mm 18mm; font: 8pt Archivo, sans-serif; color: #676256;
  @bottom-left { content: string(sheet); } @bottom-right { content: counter(page) " / " counter(pages); }
}
body { font: 9pt/1.35 Archivo, sans-serif; color: #23282c; font-variant-numeric: tabular-nums; margin: 0; }
h1 { font: 600 17pt "Source Serif 4", serif; margin: 0 0 1mm; string-set: sheet attr(title); }
h2 { font: 600 12pt "Source Serif 4", serif; margin: 6mm 0 1mm; border-top: 0.8pt solid #23282c; padding-top: 1.5mm; }
header p { margin: 0 0 2mm; color: #676256; }
.keep { break-inside: avoid-page; }
p { margin: 0 0 1mm; }
p.said, ul.said { font-family: "Source Serif 4", serif; }
ul.said { margin: 1mm 0 2mm; padding-left: 4mm; }
table { width: 100%; border-collapse: collapse; margin: 1mm 0 2mm; }
th { text-align: left; font-weight: 500; color: #676256; border-bottom: 0.6pt solid #23282c; }
th { padding: 0.6mm 1.5mm 0.6mm 0; vertical-align: bottom; }
td { border-bottom: 0.4pt solid #d8d0bd; padding: 0.8mm 1.5mm 0.8mm 0; vertical-align: baseline; }
th.r, td.r { text-align: right; white-space: nowrap; padding-right: 3mm; }
thead { display: table-header-group; } tr { break-inside: avoid; }
.box { display: inline-block; width: 3mm; height: 3mm; border: 0.7pt solid #23282c; } .box.done { background: #23282c; }
b { font-weight: 650; }
svg { display: block; max-width: 182mm; }
img { max-width: 120mm; max-height: 70mm; }
.pair { display: flex; gap: 4mm; align-items: start; } .pair svg { max-width: 88mm; }
.close { font-size: 9pt; gap: 8mm } .close td { padding-block: 0.35mm }
"""


Item = TypeVar("Item")
Pictures = Callable[[str], tuple[str, bytes] | None]
"""Media type and content of a kept picture by its key; None: it is not there."""


class _OwnFontsOnly(URLFetcher):  # type: ignore[misc]
    """Refuses everything that is not a file of the font folder."""

    def __init__(self, folder: Path | None) -> None:
        super().__init__()
        self.folder = folder

    def fetch(self, url, headers=None):  # type: ignore[no-untyped-def]
        if not url.startswith("data:image/") and (self.folder is None or not url.startswith(self.folder.as_uri())):
            raise ValueError("a sheet fetches nothing but its own fonts and pictures")
        return super().fetch(url, headers)


def _tell(record: logging.LogRecord) -> bool:
    """WeasyPrint says in its log which page it lays out; that goes to whoever watches, and into no log."""
    pages = [value for value in (record.args or ()) if isinstance(value, int)]
    tell(Share(0.0, f"page {pages[0]}" if "Page" in record.msg and pages else ""))
    return False


_PROGRESS = logging.getLogger("weasyprint.progress")
_PROGRESS.setLevel(logging.INFO)
_PROGRESS.addFilter(_tell)


def write_pdf(
    title: str, lead: str, body: Sequence[str], fonts: Path | None, made: date, *, landscape: bool = False
) -> bytes:
    """A sheet as PDF.  ``body`` is HTML, its texts escaped; ``fonts``: where the fonts of the house are.

    The watch is told of every page.
    """
    document = (
        f'<!doctype html><html lang="en"><head><title>{escape(title)}</title></head><body>'
        f'<header><h1 title="{escape(title)}">{escape(title)}</h1><p>{escape(lead)} {made.isoformat()}</p></header>'
        f"{''.join(body)}</body></html>"
    )
    return _written(document, fonts, "@page { size: A4 landscape; margin: 11mm 14mm 15mm }" if landscape else "")


def write_pages(size: str, pages: Sequence[str], fonts: Path | None) -> bytes:
    """Pages of one size with nothing on them but what is placed there, as PDF.  ``pages``: HTML of class *page*."""
    look = f"""
    @page {{ size: {size}; margin: 0; @bottom-left {{ content: none }} @bottom-right {{ content: none }} }}
    .page {{ position: relative; width: 100%; height: 0; }} .page + .page {{ break-before: page; }}
    .label {{ position: absolute; box-sizing: border-box; text-align: center; font-weight: 600; white-space: nowrap; }}
    """
    return _written(f'<!doctype html><html lang="en"><body>{"".join(pages)}</body></html>', fonts, look)


def _written(document: str, fonts: Path | None, more: str) -> bytes:
    """A document as PDF, in the look of the house and what is said beside it."""
    look, config = _look(fonts)
    sheets = [look, CSS(string=more, font_config=config)] if more else [look]
    pdf = HTML(string=document, url_fetcher=_OwnFontsOnly(fonts)).write_pdf(stylesheets=sheets, font_config=config)
    assert isinstance(pdf, bytes)
    return pdf


def batched(items: Sequence[Item], most: int) -> Iterator[Sequence[Item]]:
    """Items in runs of so many at the most."""
    return (items[start : start + most] for start in range(0, len(items), most))


@lru_cache(1)
def _look(fonts: Path | None) -> tuple[CSS, FontConfiguration]:
    """The style sheet with its fonts, read once."""
    config = FontConfiguration()
    faces = "".join(_face(name, pattern, fonts) for name, pattern in FONTS.items())
    return CSS(string=faces + LOOK, url_fetcher=_OwnFontsOnly(fonts), font_config=config), config


def _face(name: str, pattern: str, fonts: Path | None) -> str:
    file = next(iter(sorted(fonts.glob(pattern))), None) if fonts else None
    if file is None:
        return ""
    return f'@font-face {{ font-family: "{name}"; src: url("{file.as_uri()}"); font-weight: 100 900; }}'


def table(heads: Sequence[str], rows: Sequence[Sequence[str]], right: frozenset[int] = frozenset()) -> str:
    """A table; cells are HTML already.  ``right``: columns of figures."""

    def cells(tag: str, row: Sequence[str]) -> str:
        return "".join(f"<{tag}{' class=r' if n in right else ''}>{cell}</{tag}>" for n, cell in enumerate(row))

    lines = "".join(f"<tr>{cells('td', row)}</tr>" for row in rows)
    return f"<table><thead><tr>{cells('th', heads)}</tr></thead><tbody>{lines}</tbody></table>"


def sentences(texts: Sequence[str]) -> str:
    """Sentences as a list, in the voice of findings."""
    return '<ul class="said">' + "".join(f"<li>{escape(text)}</li>" for text in texts) + "</ul>" if texts else ""


def tick(done: bool) -> str:
    return f'<span class="box{" done" if done else ""}"></span>'
