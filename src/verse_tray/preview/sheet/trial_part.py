"""What a piece does, in a row of a sheet."""

from __future__ import annotations

import base64
from html import escape

from verse_tray.preview.trials.result import Acted, Control, Link


def acted_part(acted: Acted) -> str:
    """Return the part of a row that tells of scripts, controls and links, with pictures of hover and focus."""
    told = "".join(
        f'<li class="{each.severity.value}">{_place(each.line, each.column)}{escape(each.message)}</li>'
        for each in acted.findings
    )
    clicks = "".join(map(_clicks, (each for each in acted.controls if each.clicks)))
    looks = "".join(map(_looks, (each for each in acted.controls if each.looks)))
    links = "".join(map(_link, acted.links))
    parts = (
        ("Errors, refusals and requests", f'<ul class="worst">{told}</ul>' if told else ""),
        ("What a click does", f'<dl class="acted">{clicks}</dl>' if clicks else ""),
        ("Under the pointer and in focus", f'<div class="looks">{looks}</div>' if looks else ""),
        ("Where its links lead", f'<dl class="acted">{links}</dl>' if links else ""),
    )
    shown = "".join(f"<section><h3>{title}</h3>{body}</section>" for title, body in parts if body)
    return f'<div class="does">{shown}</div>' if shown else ""


def _clicks(control: Control) -> str:
    told = "<br>".join(map(escape, control.told))
    return f"<dt>{_place(control.line, control.column)}{escape(control.name)}</dt><dd>{told}</dd>"


def _looks(control: Control) -> str:
    figures = []
    for look in control.looks:
        data = base64.b64encode(look.picture).decode("ascii")
        told = escape(", ".join(look.changes))
        figures.append(
            f'<figure><img src="data:image/png;base64,{data}" alt="{escape(control.name)}, {look.state}">'
            f'<figcaption title="{told}">{look.state}</figcaption></figure>'
        )
    return f"<div>{''.join(figures)}</div>"


def _link(link: Link) -> str:
    told = escape(f"{link.address} ({link.opens})")
    return f"<dt>{_place(link.line, link.column)}{escape(link.text)}</dt><dd>{told}</dd>"


def _place(line: int | None, column: int | None) -> str:
    return "" if line is None else f"<code>{line}:{column}</code> "
