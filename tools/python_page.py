"""The page of the Python interface, for ``tools/write_pages.py``: signatures and docstrings of the package's names."""

from __future__ import annotations

import inspect
import re
from typing import Any

import verse_tray

HEAD = """# From Python

What the commands do, on texts in place of files. Written by `python tools/write_pages.py` from the docstrings; the
examples run as tests. These names are stable: `import verse_tray`.

Records are frozen, and those of a check can be pickled. A `Journey` has `.stages` (each `.name`, `.markup`, `.changes`,
`.notices`, `.tree`), `.survival`, `.findings` (each `.rule`, `.stage`, `.message`, `.line`, `.column`, `.severity`),
`.limits` and `.verdict`.
"""
_DIRECTIVE = re.compile(r":(?:class|func|data|meth|attr|mod|file):`~?(?:[\w.]*\.)?(\w+)`")


def python_page() -> str:
    """Return the page."""
    parts = [HEAD]
    for names in verse_tray._HOMES.values():
        for name in names:
            parts.append(_entry(name, getattr(verse_tray, name)))
    return "\n".join(parts)


def _entry(name: str, value: Any) -> str:
    signature = f"{name}{inspect.signature(value)}" if inspect.isroutine(value) else f"class {name}"
    signature = re.sub(
        r"(?:verse_tray|pathlib|collections\.abc)\.(?:\w+\.)*|PosixPath",
        "",
        re.sub(r"(: |-> )'([^']+)'", r"\1\2", signature),
    )
    text = inspect.getdoc(value) or ""
    text = _DIRECTIVE.sub(r"`\1`", text.replace("``", "`"))
    paragraphs = []
    for paragraph in text.split("\n\n"):
        if paragraph.startswith(">>>"):
            paragraphs.append(f"```pycon\n{paragraph}\n```")
        elif re.match(r"(?:Args|Raises|Returns):\n", paragraph):
            heading, _, rows = paragraph.partition("\n")
            rows = re.sub(r"\n {8,}", " ", rows)
            rows = re.sub(r"(?m)^ {4}([\w, ]+): ", r"- `\1`: ", rows)
            rows = re.sub(r"(?m)^ {4}", "", rows)
            paragraphs.append(f"{heading}\n\n{rows}")
        else:
            paragraphs.append(paragraph)
    shown = signature if len(signature) < 100 else re.sub(r", (?=\w+[:=]|\*)", ",\n    ", signature)
    return f"## `{name}`\n\n```python\n{shown}\n```\n\n" + "\n\n".join(paragraphs) + "\n"
