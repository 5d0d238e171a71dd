"""Whether a tree, once serialised, is certain to be read back as it is, without parsing it to find out.

The tree construction stage (HTML standard, 13.2.6.4) closes, moves and drops elements by what is open around them. Each
element here needs or forbids some of that. The answer errs to one side only: where it says yes, a parser agrees (a test
holds that); where the tree holds anything unusual it says no, and the caller parses.
"""

from __future__ import annotations

from typing import NamedTuple

from verse_tray.markup.names import FORMATTING, HTML, RAW_TEXT
from verse_tray.markup.tree import Comment, Element, Text, Tree

_PARAGRAPH, _LINK, _BUTTON, _FORM, _NOBR = 1, 2, 4, 8, 16
_HEADING, _LIST, _TERMS, _TABLE, _SECTION, _ROW, _COLUMNS, _LEAF = 32, 64, 128, 256, 512, 1024, 2048, 4096
_NO_TEXT = _TABLE | _SECTION | _ROW | _COLUMNS
"""Parents between whose children only white space may stand."""
_FOR_CHILDREN = _HEADING | _LIST | _TERMS | _NO_TEXT | _LEAF
"""What holds for children only; the rest holds for everything inside."""
_CELL = _PARAGRAPH | _LINK | _BUTTON | _NOBR
"""What a cell or a caption shuts out: it is a marker among the formatting elements and bounds every scope."""


class _Rule(NamedTuple):
    needs: int
    """What has to be around the element: any one of these."""
    forbids: int
    """What must not be around it."""
    sets: int
    """What it is for what is inside it."""
    ends: int
    """What around it does not reach what is inside it."""


_RULES: dict[str, _Rule] = {}


def _rule(names: str, forbids: int = _NO_TEXT, *, needs: int = 0, sets: int = 0, ends: int = 0) -> None:
    _RULES.update(dict.fromkeys(names.split(), _Rule(needs, forbids, sets, ends)))


_BLOCK = _PARAGRAPH | _NO_TEXT
_ORDINARY = _Rule(0, _NO_TEXT, 0, 0)
_rule(
    "address article aside blockquote center details dialog dir div fieldset figcaption figure footer header hgroup "
    "listing main nav pre search section summary",
    _BLOCK,
)
_rule("p", _BLOCK, sets=_PARAGRAPH)
_rule("h1 h2 h3 h4 h5 h6", _BLOCK | _HEADING, sets=_HEADING)
_rule("ul ol menu", _BLOCK, sets=_LIST)
_rule("li", _BLOCK, needs=_LIST)
_rule("dl", _BLOCK, sets=_TERMS)
_rule("dt dd", _BLOCK, needs=_TERMS)
_rule("form", _BLOCK | _FORM, sets=_FORM)
_rule("table", _BLOCK, sets=_TABLE)
_rule("tbody thead tfoot", 0, needs=_TABLE, sets=_SECTION)
_rule("tr", 0, needs=_SECTION, sets=_ROW)
_rule("td th", 0, needs=_ROW, ends=_CELL)
_rule("caption", 0, needs=_TABLE, ends=_CELL)
_rule("colgroup", 0, needs=_TABLE, sets=_COLUMNS)
_rule("col", 0, needs=_COLUMNS, sets=_LEAF)
_rule("hr", _BLOCK, sets=_LEAF)
_rule("area br embed img input link meta base source track wbr", sets=_LEAF)
_rule("a", _NO_TEXT | _LINK, sets=_LINK)
_rule("nobr", _NO_TEXT | _NOBR, sets=_NOBR)
_rule("button", _NO_TEXT | _BUTTON, sets=_BUTTON, ends=_PARAGRAPH)
_rule(" ".join(FORMATTING - {"a", "nobr"}))
_rule(
    "abbr bdi bdo cite data del dfn ins kbd label legend mark q samp span sub sup time var picture audio video canvas"
)
_rule("style script iframe")

_WHITE = " \t\n\f"
_DEEPEST = 500


def ends_paragraph(name: str) -> bool:
    """Tell whether the start tag of an HTML element ends a paragraph that is open."""
    rule = _RULES.get(name)
    return rule is not None and bool(rule.forbids & _PARAGRAPH)


def reads_back(tree: Tree, markup: str) -> bool:
    """Tell whether browsers are certain to read ``markup``, the serialised tree, as this tree."""
    if "\0" in markup or "\r" in markup:
        return False
    rules = _RULES
    stack: list[tuple[Element, int, int]] = [(tree.root, 0, 0)]
    while stack:
        parent, around, depth = stack.pop()
        no_text = around & _NO_TEXT
        for child in parent.children:
            if type(child) is Element:
                rule = rules.get(child.name)
                if rule is None:
                    if "-" not in child.name:
                        return False
                    rule = _ORDINARY
                needs, forbids, sets, ends = rule
                if around & forbids or (needs and not around & needs) or child.namespace != HTML:
                    return False
                if not child.children:
                    continue
                if child.name in RAW_TEXT:
                    if not _is_plain_raw_text(child):
                        return False
                elif sets & _LEAF or depth > _DEEPEST or (child.name in ("pre", "listing") and _starts_a_line(child)):
                    return False
                else:
                    stack.append((child, (around & ~_FOR_CHILDREN & ~ends) | sets, depth + 1))
            elif type(child) is Text:
                if no_text and child.data.strip(_WHITE):
                    return False
            elif type(child) is not Comment or not _is_plain_comment(child):
                return False
    return True


def _starts_a_line(element: Element) -> bool:
    first = element.children[0]
    return type(first) is Text and first.data[:1] in ("\n", "")  # the parser leaves a first line end out


def _is_plain_raw_text(element: Element) -> bool:
    end = f"</{element.name}"
    for child in element.children:
        if type(child) is not Text or "<!--" in child.data or end in child.data.lower():
            return False
    return True


def _is_plain_comment(comment: Comment) -> bool:
    data = comment.markup[4:-3]
    odd = data[:1] in (">", "-") or data[-1:] in ("-", "!") or "--" in data or "<!" in data
    return comment.kind == "comment" and comment.markup.startswith("<!--") and not odd
