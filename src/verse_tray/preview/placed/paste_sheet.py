"""The paste sheet as a page, and as Markdown."""

from __future__ import annotations

import base64
import hashlib
import json
import re
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from markupsafe import Markup

from verse_tray.place.placement import Placement
from verse_tray.place.steps import Step
from verse_tray.place.words import outcome_sentence, summary
from verse_tray.preview.templates import render

_HERE = Path(__file__).parent


def paste_sheet(placement: Placement, steps: Sequence[Step]) -> str:
    """Return the sheet as a page of its own, which needs nothing else and runs no script but its own."""
    script = Markup((_HERE / "paste_sheet.js").read_text("utf-8"))
    digest = base64.b64encode(hashlib.sha256(script.encode()).digest()).decode("ascii")
    policy = f"default-src 'none'; style-src 'unsafe-inline'; script-src 'sha256-{digest}'"
    return render(
        "placed/paste_sheet.html",
        policy=Markup(policy),
        summary=summary(placement, len(steps)),
        outcomes=[outcome_sentence(each) for each in placement.placed],
        findings=[(name, each.severity.value, each.message) for name, each in placement.findings],
        notes=placement.notes,
        steps=steps,
        style=Markup((_HERE / "paste_sheet.css").read_text("utf-8")),
        data=_data(steps),
        script=script,
        site=placement.site.site.title,
    )


def _data(steps: Sequence[Step]) -> Markup:
    """Return the texts as JSON that no element can be ended by."""
    texts: list[dict[str, Any]] = [{"text": step.paste.text, "rich": step.rich} for step in steps]
    whole = json.dumps({"texts": texts, "key": _key(steps)})
    return Markup(whole.replace("<", "\\u003c").replace("\u2028", "\\u2028").replace("\u2029", "\\u2029"))


def _key(steps: Sequence[Step]) -> str:
    """Return what tells this placement from others: boxes stay ticked only for the same texts."""
    return hashlib.sha256("\0".join(f"{each.paste.target.key}\0{each.paste.text}" for each in steps).encode(
        "utf-8", "surrogatepass")).hexdigest()[:16]  # fmt: skip


def paste_sheet_markdown(placement: Placement, steps: Sequence[Step]) -> str:
    """Return the sheet as Markdown (CommonMark)."""
    lines = [f"# Paste sheet: {_plain(placement.site.site.title)}", "", summary(placement, len(steps)), ""]
    lines += [f"- {_plain(outcome_sentence(each))}" for each in placement.placed]
    lines += [
        f"- **{each.severity.value}** {_plain(name)}: {_plain(each.message)}" for name, each in placement.findings
    ]
    lines += [f"- {_plain(each)}" for each in placement.notes]
    for step in steps:
        fence = "`" * max(3, 1 + max(map(len, re.findall("`+", step.paste.text)), default=0))
        kind = "css" if step.file.endswith(".css") else "js" if step.file.endswith(".js") else "html"
        after = f" Behind it: {_plain(step.after)}." if step.after else ""
        lines += [
            "",
            f"## {step.number}. {_plain(step.title)} ({_plain(step.scope)})",
            "",
            f"- [ ] Go to {_plain(step.where)}.",
            f"- [ ] {_plain(step.how)} The text is in `{step.file}`, {len(step.paste.text):,} characters, for "
            f"{_plain(', '.join(step.paste.pieces))}.",
            f"- Before it: {_plain(step.before)}.{after}",
            f"- [ ] Save. {step.publishing}",
            *(f"- [ ] {_plain(each)}" for each in step.look),
            "",
            f"{fence}{kind}",
            step.paste.text.rstrip("\n"),
            fence,
        ]
    return "\n".join(lines) + "\n"


def _plain(text: str) -> str:
    """Return text in which no sign has a meaning of Markdown's own."""
    return re.sub(r"([\\`*_{}\[\]<>#|])", r"\\\1", " ".join(text.split()))
