"""Cleaners as people write them at home: expressions over text, walks of a tree, string rewriting. None knows profiles.

Each takes a text and returns what is stored of it.
"""

from __future__ import annotations

import html
import re
from collections.abc import Callable
from html.parser import HTMLParser
from urllib.parse import quote, urlsplit

from verse_tray.markup.parse import parse_fragment
from verse_tray.markup.tree import Comment, Element, Node, Text

VOID = set("area base br col embed hr img input link meta source track wbr".split())
RAW = ("script", "style")
BLOCK = set(
    "p div h1 h2 h3 h4 h5 h6 ul ol li table tbody thead tfoot tr td th blockquote pre hr section figure".split()
)


class Stream(HTMLParser):
    """A cleaner that writes tag by tag as it reads."""

    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.out: list[str] = []
        self.muted: list[str] = []

    mute: tuple[str, ...] = (
        "script",
        "style",
        "iframe",
        "object",
        "noscript",
        "title",
        "textarea",
        "select",
        "svg",
        "template",
    )

    def start(self, tag: str, attrs: list[tuple[str, str | None]]) -> str:
        return ""

    def end(self, tag: str) -> str:
        return ""

    def text(self, data: str) -> str:
        return html.escape(data, quote=False)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag in self.mute:
            self.muted.append(tag)
        elif not self.muted:
            self.out.append(self.start(tag, attrs))

    def handle_startendtag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if not self.muted and tag not in self.mute:
            self.out.append(self.start(tag, attrs))

    def handle_endtag(self, tag: str) -> None:
        if tag in self.muted:
            while self.muted and self.muted.pop() != tag:
                pass
        elif not self.muted and tag not in VOID:
            self.out.append(self.end(tag))

    def handle_data(self, data: str) -> None:
        if not self.muted:
            self.out.append(self.text(data))

    def clean(self, markup: str) -> str:
        self.feed(markup)
        self.close()
        return "".join(self.out)


def scheme(address: str) -> str:
    found = re.match(r"\s*([a-z][a-z0-9+.-]*):", re.sub(r"[\t\n\r]", "", address), re.IGNORECASE)
    return found[1].lower() if found else ""


def walk(nodes: list[Node], change: Callable[[Element, list[Node]], list[Node]]) -> list[Node]:
    """Rebuild a tree from its leaves: each element becomes what a function makes of it and its new children."""
    found: list[Node] = []
    for node in nodes:
        if type(node) is Element:
            found += change(node, walk(node.children, change))
        else:
            found.append(node)
    return found


def write(
    nodes: list[Node],
    *,
    slash: str = "",
    text: Callable[[str], str] = lambda t: html.escape(t, quote=False).replace("\xa0", "&nbsp;"),
    value: Callable[[str], str] = lambda v: html.escape(v, quote=False).replace('"', "&quot;"),
    order: bool = False,
    boolean: str = "",
) -> str:
    out = []
    for node in nodes:
        if type(node) is Text:
            out.append(text(node.data))
        elif type(node) is Comment:
            out.append(node.markup)
        elif type(node) is Element:
            items = sorted(node.attributes.items()) if order else list(node.attributes.items())
            attrs = "".join(
                f" {n}" if boolean == "bare" and not v else f' {n}="{n if boolean == "repeat" and not v else value(v)}"'
                for n, v in items
            )
            inner = (
                "".join(c.data for c in node.children if type(c) is Text)
                if node.name in RAW
                else write(node.children, slash=slash, text=text, value=value, order=order, boolean=boolean)
            )
            out.append(
                f"<{node.name}{attrs}{slash}>" if node.name in VOID else f"<{node.name}{attrs}>{inner}</{node.name}>"
            )
    return "".join(out)


def tree(markup: str) -> list[Node]:
    return parse_fragment(markup).tree.root.children


def stripped_by_expression(markup: str) -> str:
    """A list of tags by an expression; attributes stay as typed, but handlers and javascript go by expressions."""
    markup = re.sub(r"(?is)<(script|style|iframe|object|noscript)\b.*?</\1\s*>", "", markup)
    markup = re.sub(r"(?s)<!--.*?-->", "", markup)
    keep = "a|b|strong|i|em|u|p|br|ul|ol|li|img|h2|h3|blockquote|span|div|table|tr|td|th|tbody|thead|hr|code|pre"
    markup = re.sub(rf"(?i)</?(?!(?:{keep})\b)[a-z][^>]*>", "", markup)
    return re.sub(r"""(?i)\s+on\w+\s*=\s*("[^"]*"|'[^']*'|[^\s>]+)""", "", markup)


class CommentBox(Stream):
    """Few tags, links with an address only, everything else unwrapped; javascript becomes a number sign."""

    def start(self, tag: str, attrs: list[tuple[str, str | None]]) -> str:
        if tag == "a":
            href = dict(attrs).get("href") or ""
            if scheme(href) not in ("http", "https", "mailto", ""):
                href = "#"
            return f'<a href="{html.escape(href)}" rel="nofollow">' if href else "<a>"
        return f"<{tag}>" if tag in "b i em strong code p br ul ol li blockquote del pre".split() else ""

    def end(self, tag: str) -> str:
        return f"</{tag}>" if tag in "a b i em strong code p ul ol li blockquote del pre".split() else ""


def forum(markup: str) -> str:
    """Few tags by a walk, then blank lines to paragraphs and line ends to breaks, closed with a slash."""
    keep = set("a b i u s em strong ul ol li blockquote code pre img p br".split())

    def change(node: Element, inner: list[Node]) -> list[Node]:
        if node.name in ("script", "style", "iframe", "object", "form", "svg"):
            return []
        if node.name not in keep:
            return inner
        node.attributes = {
            k: v
            for k, v in node.attributes.items()
            if k in ("href", "src", "alt", "title") and scheme(v) != "javascript"
        }
        if node.name == "img" and not node.attributes.get("src", "").startswith("http"):
            return []
        node.children = inner
        return [node]

    kept = [n for n in walk(tree(markup), change) if type(n) is not Comment]
    text = write(kept, slash=" /")
    parts = [p.strip() for p in re.split(r"\n\s*\n", text)]
    return "\n".join(p if re.match(r"<(p|ul|ol|blockquote|pre)\b", p) else f"<p>{p}</p>" for p in parts if p)


def mail_proxy(markup: str) -> str:
    """Pictures by way of another host, links over a gate, properties of layout gone."""
    bad = ("position", "float", "display", "z-index")

    def change(node: Element, inner: list[Node]) -> list[Node]:
        if node.name in (
            "script",
            "style",
            "iframe",
            "object",
            "form",
            "input",
            "button",
            "svg",
            "link",
            "meta",
            "base",
            "title",
        ):
            return []
        node.children = inner
        a = node.attributes
        for name in [n for n in a if n.startswith(("on", "data-")) or n in ("id", "class")]:
            del a[name]
        if "style" in a:
            kept = [
                d.strip()
                for d in a["style"].split(";")
                if d.strip() and d.split(":")[0].strip().lower() not in bad and "url(" not in d
            ]
            if kept:
                a["style"] = "; ".join(kept) + ";"
            else:
                del a["style"]
        if node.name == "img" and a.get("src", "").startswith("http"):
            a["src"] = "https://pics.mail.example/get?u=" + quote(a["src"], safe="")
        if node.name == "a" and scheme(a.get("href", "")) in ("http", "https"):
            a["href"] = "https://out.mail.example/?u=" + quote(a["href"], safe="")
            a["target"] = "_blank"
        return [node]

    return write([n for n in walk(tree(markup), change) if type(n) is not Comment])


def word_cleaner(markup: str) -> str:
    """Clears what word processors leave: classes, their properties, empty spans, font."""

    def change(node: Element, inner: list[Node]) -> list[Node]:
        node.children = inner
        a = node.attributes
        if node.name in ("script", "style", "meta", "link", "title", "base"):
            return []
        if ":" in node.name or node.name in ("font", "center", "tide", "o-p"):
            return inner
        a.pop("class", None)
        a.pop("lang", None)
        if "style" in a:
            kept = [
                d.strip()
                for d in a["style"].split(";")
                if d.strip() and not d.strip().lower().startswith(("mso", "font", "margin", "line-height"))
            ]
            if kept:
                a["style"] = ";".join(kept)
            else:
                del a["style"]
        if node.name == "span" and not a:
            return inner
        if node.name in ("b", "i"):
            node.name = {"b": "strong", "i": "em"}[node.name]
        if node.name in ("p", "strong", "em", "span", "h2", "h3") and not any(
            type(c) is Element or (type(c) is Text and c.data.strip(" \n\t")) for c in inner
        ):
            return []
        return [node]

    return write([n for n in walk(tree(markup), change) if type(n) is not Comment])


def xhtml(markup: str) -> str:
    """Everything is kept but scripts and handlers, and written as XML: slashes, values, numeric references, sorted."""

    def change(node: Element, inner: list[Node]) -> list[Node]:
        if node.name == "script":
            return []
        node.children = inner
        node.attributes = {k: v for k, v in node.attributes.items() if not k.startswith("on")}
        return [node]

    def far(t: str) -> str:
        return re.sub("[\x80-\uffff]", lambda c: f"&#{ord(c[0])};", html.escape(t, quote=False))

    return write(
        walk(tree(markup), change),
        slash=" /",
        text=far,
        value=lambda v: far(v).replace('"', "&quot;"),
        order=True,
        boolean="repeat",
    )


def gallery(markup: str) -> str:
    """Wraps tables, makes pictures lazy, opens outward links in a new window."""

    def change(node: Element, inner: list[Node]) -> list[Node]:
        node.children = inner
        a = node.attributes
        if node.name in ("script", "style", "form", "object"):
            return []
        for name in [n for n in a if n.startswith("on")]:
            del a[name]
        if node.name == "img":
            a.setdefault("loading", "lazy")
            a.pop("width", None)
            a.pop("height", None)
        if node.name == "a" and scheme(a.get("href", "")) in ("http", "https"):
            a["target"], a["rel"] = "_blank", "noopener"
        return [node]

    return write(walk(tree(markup), change))


def class_filter(markup: str) -> str:
    """Classes by their front, no identifiers, sizes in numbers only."""

    def change(node: Element, inner: list[Node]) -> list[Node]:
        node.children = inner
        a = node.attributes
        if node.name in ("script", "style", "iframe", "embed", "object"):
            return []
        if "class" in a:
            kept = [c for c in a["class"].split() if re.match(r"(note|btn|wide)", c)]
            if kept:
                a["class"] = " ".join(kept)
            else:
                del a["class"]
        a.pop("id", None)
        for name in ("width", "height"):
            if name in a and not a[name].isdigit():
                del a[name]
        for name in [n for n in a if n.startswith("on")]:
            del a[name]
        return [node]

    return write(walk(tree(markup), change))


class Strict(Stream):
    """A handful of tags without any attributes, all text escaped, quotes as references."""

    def start(self, tag: str, attrs: list[tuple[str, str | None]]) -> str:
        if tag == "a" and dict(attrs).get("href", "") and scheme(dict(attrs)["href"] or "") in ("http", "https"):
            return f'<a href="{html.escape(dict(attrs)["href"] or "")}">'
        tag = {"b": "strong", "i": "em"}.get(tag, tag)
        return f"<{tag}>" if tag in "p strong em ul ol li br".split() else ""

    def end(self, tag: str) -> str:
        tag = {"b": "strong", "i": "em"}.get(tag, tag)
        return f"</{tag}>" if tag in "p strong em ul ol li a".split() else ""

    def text(self, data: str) -> str:
        return html.escape(data, quote=True)


def style_walker(markup: str) -> str:
    """Properties by a list, each with an expression for its values."""
    rules = {
        "color": r"(#[0-9a-f]{3,8}|[a-z]+)",
        "background-color": r"(#[0-9a-f]{3,8}|[a-z]+)",
        "text-align": r"(left|right|center|justify)",
        "width": r"\d+(\.\d+)?(px|%)",
        "height": r"\d+(\.\d+)?(px|%)",
        "font-weight": r"(bold|normal|\d+)",
        "font-style": r"[a-z]+",
        "margin": r"[\d.a-z% -]+",
        "padding": r"[\d.a-z% ]+",
        "font-size": r"\d+(\.\d+)?(px|em|%)",
        "text-decoration": r"[a-z -]+",
    }

    def change(node: Element, inner: list[Node]) -> list[Node]:
        node.children = inner
        if node.name in ("script", "style", "iframe", "form", "object", "svg"):
            return []
        a = node.attributes
        for name in [n for n in a if n.startswith("on")]:
            del a[name]
        if "style" in a:
            kept = []
            for each in a["style"].split(";"):
                name, _, value = (part.strip() for part in each.partition(":"))
                if name.lower() in rules and re.fullmatch(rules[name.lower()], value, re.IGNORECASE):
                    kept.append(f"{name.lower()}: {value}")
            if kept:
                a["style"] = "; ".join(kept)
            else:
                del a["style"]
        return [node]

    return write([n for n in walk(tree(markup), change) if type(n) is not Comment])


def shop(markup: str) -> str:
    """Unknown tags become text, headings move down, pictures by https only."""
    keep = set("p br b i em strong u ul ol li a img h2 h3 table tbody tr td th div span hr".split())
    markup = re.sub(r"(?is)<(script|style)\b.*?</\1\s*>", "", markup)

    def change(node: Element, inner: list[Node]) -> list[Node]:
        if node.name == "h1":
            node.name = "h2"
        if node.name not in keep:
            return [Text(f"<{node.name}>"), *inner, Text(f"</{node.name}>")]
        node.children = inner
        node.attributes = {
            k: v for k, v in node.attributes.items() if k in ("href", "src", "alt", "class", "colspan", "title")
        }
        if node.name == "img" and not node.attributes.get("src", "").startswith("https:"):
            return []
        if (
            node.name == "a"
            and "href" in node.attributes
            and scheme(node.attributes["href"]) not in ("http", "https", "mailto")
        ):
            del node.attributes["href"]
        return [node]

    return write([n for n in walk(tree(markup), change) if type(n) is not Comment])


def page_system(markup: str) -> str:
    """Code and comments go, non-breaking spaces become plain, frames of two hosts stay, addresses become secure."""

    def change(node: Element, inner: list[Node]) -> list[Node]:
        node.children = inner
        a = node.attributes
        if node.name in ("script", "form", "object", "embed", "template"):
            return []
        if node.name == "iframe" and urlsplit(a.get("src", "")).hostname not in (
            "films.gannetcove.example",
            "maps.gannetcove.example",
        ):
            return []
        for name in [n for n in a if n.startswith(("on", "data-"))]:
            del a[name]
        for name in ("href", "src"):
            if a.get(name, "").startswith("http:"):
                a[name] = "https:" + a[name][5:]
        return [node]

    nodes = [n for n in walk(tree(markup), change) if type(n) is not Comment]
    return write(nodes).replace("&nbsp;", " ")


def presser(markup: str) -> str:
    """Comments and white space between tags go, empty attributes stand bare."""

    def change(node: Element, inner: list[Node]) -> list[Node]:
        node.children = [n for n in inner if type(n) is not Comment]
        return [] if node.name == "script" else [node]

    text = write([n for n in walk(tree(markup), change) if type(n) is not Comment], boolean="bare")
    return re.sub(r">\s+<", "><", text)


def paragraph_field(markup: str) -> str:
    """What stands outside blocks is put into paragraphs, an empty line between blocks."""
    keep = set("a b i em strong u br p ul ol li h2 h3 blockquote img span".split())

    def change(node: Element, inner: list[Node]) -> list[Node]:
        if node.name in ("script", "style", "iframe", "object", "form", "svg", "table"):
            return []
        if node.name not in keep:
            return inner
        node.children = inner
        node.attributes = {k: v for k, v in node.attributes.items() if k in ("href", "src", "alt", "title")}
        return [node]

    out: list[str] = []
    line: list[Node] = []

    def close() -> None:
        text = write(line).strip()
        if text:
            out.append(f"<p>{text}</p>")
        line.clear()

    for node in [n for n in walk(tree(markup), change) if type(n) is not Comment]:
        if type(node) is Element and node.name in BLOCK:
            close()
            out.append(write([node]))
        else:
            line.append(node)
    close()
    return "\n\n".join(out)


CLEANERS: dict[str, Callable[[str], str]] = {
    "stripped by expression": stripped_by_expression,
    "comment box": lambda markup: CommentBox().clean(markup),
    "forum": forum,
    "mail proxy": mail_proxy,
    "word cleaner": word_cleaner,
    "xhtml": xhtml,
    "gallery": gallery,
    "class filter": class_filter,
    "strict": lambda markup: Strict().clean(markup),
    "style walker": style_walker,
    "shop": shop,
    "page system": page_system,
    "presser": presser,
    "paragraph field": paragraph_field,
}
