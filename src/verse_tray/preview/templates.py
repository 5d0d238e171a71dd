"""Pages of ours, made from templates that stand beside the code; whatever is put into them is escaped."""

from __future__ import annotations

from base64 import b64encode
from functools import cache
from pathlib import Path
from typing import Any

from jinja2 import Environment, FileSystemLoader, StrictUndefined
from markupsafe import Markup


@cache
def _environment(folder: Path) -> Environment:
    made = Environment(
        loader=FileSystemLoader(folder),
        autoescape=True,
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
        keep_trailing_newline=True,
    )
    made.filters["base64"] = lambda data: b64encode(data).decode("ascii")
    return made


_HERE = Path(__file__).parent


def render(template: str, folder: Path = _HERE, **values: Any) -> Markup:
    """Return a page, or a part of one, made from a template.

    Args:
        template: Its path below the folder, such as ``sheet/row.html``.
        folder: Where templates stand; this one if nobody says.
        values: What is put into it: text is escaped, :class:`markupsafe.Markup` is not.
    """
    return Markup(_environment(folder).get_template(template).render(values))
