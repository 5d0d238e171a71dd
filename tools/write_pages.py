"""Write every generated page, and every generated part of a page: ``python tools/write_pages.py``."""

from __future__ import annotations

import re
import sys
import textwrap
from collections.abc import Iterable
from pathlib import Path

import msgspec

sys.path.insert(0, str(Path(__file__).parent))
from commands_page import reference
from python_page import python_page
from stand_ins_page import stand_ins_page

from verse_tray.config.schema import whole_schema
from verse_tray.editors.schema import profile_schema
from verse_tray.journeys.steps import FILTER, FINISHING, OPENING, PANE
from verse_tray.journeys.steps.step import Step
from verse_tray.reading.compare import WEIGHTS
from verse_tray.reading.thresholds import THRESHOLDS
from verse_tray.reports.rule_text import rules_page
from verse_tray.sites.records import FORMAT as SITE_FORMAT
from verse_tray.sites.records import Site
from verse_tray.trays.records import FORMAT as TRAY_FORMAT
from verse_tray.trays.records import Tray

ROOT = Path(__file__).parent.parent
_PART = re.compile(r"(<!-- written by tools/write_pages\.py: ([a-z ]+) -->\n).*?(<!-- end -->)", re.DOTALL)


def camel(key: str) -> str:
    """Return a field's name as it stands in ``editor.toml``."""
    first, *others = key.split("_")
    return "".join([first, *(word.capitalize() for word in others)])


def order_of_steps() -> str:
    """Return the table of the steps in their order."""
    rows = ["| order | step | stages | profile keys |", "|---|---|---|---|"]
    for number, step in enumerate((*PANE, *OPENING, *FILTER, *FINISHING), 1):
        stages = "any" if step.keys and step not in PANE else "paste" if step in PANE else "reopen"
        keys = ", ".join(f"`{camel(key)}`" for key in step.keys) or "none: what the author types there"
        rows.append(f"| {number} | `{step.name}` | {stages} | {keys} |")
    return "\n".join(rows)


def weights() -> str:
    """Return the table of what weighs how much in how alike two readings are."""
    rows = ["| what | share |", "|---|---|"]
    return "\n".join([*rows, *(f"| {what} | {round(share * 100)} % |" for what, share in WEIGHTS.items())])


def differences_seen() -> str:
    """Return the table of the differences up to which nobody sees one."""
    rows = ["| difference | not seen up to |", "|---|---|"]
    return "\n".join([*rows, *(f"| {each.meaning} | {each.most:g} |" for each in THRESHOLDS.values())])


def guide(steps: Iterable[Step], more: Iterable[tuple[str, str, str]] = ()) -> str:
    """Return the table of the keys that steps follow."""
    rows = ["| key | meaning | when left out |", "|---|---|---|"]
    rows += [f"| {keys} | {meaning} | {otherwise} |" for step in steps for keys, meaning, otherwise in step.guide]
    return "\n".join([*rows, *(f"| {keys} | {meaning} | {otherwise} |" for keys, meaning, otherwise in more)])


_NO_STEPS = (
    (
        "`writes`",
        "`as-typed`: what stays, stays as it was typed; `tags-anew`: text stays so, tags are written anew one by "
        "one; `tokens-anew`: text too, and no end tag is added; `anew`: all is written as browsers do",
        "`as-typed`; in `reopen` `anew`",
    ),
    (
        "`references`",
        "how signs beyond ASCII are stored: `plain`, `named`, `numeric`",
        "`plain`",
    ),
    (
        "`cleans`",
        "`once`, or `until-safe`: what was written is read back as browsers do, and filtered again until no code is "
        "left that the stage forbids",
        "`once`",
    ),
    (
        "`voidTags`",
        "how tags without an end tag are written when tags are written anew: `plain` (`<br>`), `slash` (`<br />`), "
        "`tight-slash` (`<br/>`)",
        "`plain`",
    ),
    (
        "`textSigns`, `valueSigns`",
        "how single signs of text, and of attributes' values, are written when they are written anew: "
        '`{ \'"\' = "&quot;" }`',
        "as browsers do",
    ),
    (
        "`attributeOrder`",
        "`sorted`: attributes are written in the order of their names; `listed`: as `attributes` lists them",
        "`typed`",
    ),
    ("`publish.asked`", "whether saving is not enough", "`false`"),
)


def parts() -> dict[str, str]:
    """Return the generated parts of pages that are written by hand otherwise, by their names."""
    return {
        "the order of the steps": order_of_steps(),
        "what weighs how much": weights(),
        "differences that are seen": differences_seen(),
        "what any stage may filter": guide(FILTER),
        "the stages": guide((*PANE, *OPENING, *FINISHING), _NO_STEPS),
        "keys by name": keys_by_name(),
    }


def keys_by_name() -> str:
    """Return a sentence with the keys of the stages, as they stand in their tables."""
    keys = [key for step in (*PANE, *OPENING, *FINISHING) for key in step.keys]
    keys += ["writes", "references", "void_tags", "text_signs", "value_signs", "attribute_order", "cleans", "asked"]
    told = f"Their keys by name: {', '.join(f'`{camel(key)}`' for key in keys)}."
    return "\n".join(textwrap.wrap(told, 120))


def pages() -> dict[Path, str]:
    """Return every page that is generated as a whole or in part, by its path."""
    docs = ROOT / "docs"
    schema = msgspec.json.format(msgspec.json.encode(profile_schema()), indent=2).decode() + "\n"
    site, tray = whole_schema(Site, f"Site, {SITE_FORMAT}"), whole_schema(Tray, f"Tray, {TRAY_FORMAT}")
    found = {
        docs / "site.schema.json": msgspec.json.format(msgspec.json.encode(site), indent=2).decode() + "\n",
        docs / "tray.schema.json": msgspec.json.format(msgspec.json.encode(tray), indent=2).decode() + "\n",
        docs / "commands.md": reference(),
        docs / "mistakes.md": rules_page(),
        docs / "python.md": python_page(),
        docs / "stand-ins.md": stand_ins_page(),
        docs / "editor.schema.json": schema,
    }
    known = parts()
    for path in sorted(docs.glob("*.md")):
        text = found.get(path) or path.read_text("utf-8")
        found[path] = _PART.sub(lambda match: f"{match[1]}\n{known[match[2]]}\n\n{match[3]}", text)
    return found


if __name__ == "__main__":
    for path, text in pages().items():
        path.write_text(text, "utf-8")
