"""Six more cleaners, written when everything else was done and never looked at while it was built."""

from __future__ import annotations

import html
import re
from collections.abc import Callable
from html.parser import HTMLParser

from cleaners import scheme, tree, walk, write

from verse_tray.markup.tree import Comment, Element, Node


def newsletter(markup: str) -> str:
    """Inline styles by a list, tables and pictures with sizes; links in a new window; headings become bold lines."""
    keep = set("p a b strong i em u br img table tbody tr td span div ul ol li".split())
    look = {"color", "background-color", "font-size", "font-weight", "text-align", "padding", "width"}

    def change(node: Element, inner: list[Node]) -> list[Node]:
        if node.name in ("script", "style", "form", "iframe", "svg", "object", "select", "textarea"):
            return []
        if node.name in ("h1", "h2", "h3"):
            bold = Element("b")
            bold.children = inner
            node.name, node.attributes, node.children = "p", {}, [bold]
            return [node]
        if node.name not in keep:
            return inner
        node.children = inner
        kept = {}
        for name, value in node.attributes.items():
            if name == "style":
                rows = [each.partition(":") for each in value.split(";")]
                pairs = [(n.strip().lower(), v.strip()) for n, c, v in rows if c and n.strip().lower() in look]
                if pairs:
                    kept["style"] = "".join(f"{n}:{v};" for n, v in pairs)
            elif name in ("href", "src", "alt", "width", "height", "border"):
                kept[name] = value
        if node.name == "a" and kept.get("href", "").startswith("http"):
            kept["target"] = "_blank"
        node.attributes = kept
        return [node]

    return write([each for each in walk(tree(markup), change) if type(each) is not Comment])


class Wiki(HTMLParser):
    """Keeps most, turns what is unknown into text as it was typed, writes entities for quotes."""

    known = frozenset(
        "p a b i em strong u s br hr ul ol li dl dt dd h2 h3 h4 blockquote code pre table tr td th tbody img".split()
    )

    def __init__(self) -> None:
        super().__init__(convert_charrefs=False)
        self.out: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag not in self.known:
            self.out.append(html.escape(self.get_starttag_text() or "", quote=False))
            return
        kept = [
            (n, v or "")
            for n, v in attrs
            if n in ("href", "src", "alt", "id", "class") and scheme(v or "") != "javascript"
        ]
        self.out.append(f"<{tag}{''.join(f' {n}={chr(34)}{html.escape(v)}{chr(34)}' for n, v in kept)}>")

    def handle_endtag(self, tag: str) -> None:
        self.out.append(f"</{tag}>" if tag in self.known else f"&lt;/{tag}&gt;")

    def handle_data(self, data: str) -> None:
        self.out.append(data.replace("<", "&lt;").replace(">", "&gt;"))

    def handle_entityref(self, name: str) -> None:
        self.out.append(f"&{name};")

    def handle_charref(self, name: str) -> None:
        self.out.append(f"&#{name};")

    def handle_comment(self, data: str) -> None:
        pass


def wiki(markup: str) -> str:
    parser = Wiki()
    parser.feed(markup)
    parser.close()
    return "".join(parser.out)


def intake(markup: str) -> str:
    """A chain of expressions over the text: code, comments, handlers, classes and styles."""
    text = re.sub(r"(?is)<script.*?</script>|<style.*?</style>|<!--.*?-->", "", markup)
    text = re.sub(r"(?i)</?(?:font|center|o:p|tide)\b[^>]*>", "", text)
    text = re.sub(r"""(?i)\s(?:class|style|on\w+)=(?:"[^"]*"|'[^']*'|[^\s>]+)""", "", text)
    text = re.sub(r"(?i)<(/?)b>", r"<\1strong>", text)
    text = re.sub(r"(?i)<(/?)i>", r"<\1em>", text)
    return re.sub(r"<(span|p|div)>\s*</\1>", "", text)


def handbook(markup: str) -> str:
    """Headings move down by one, lists and tables keep classes, pictures get a class, empty ones go."""
    down = {"h1": "h2", "h2": "h3", "h3": "h4", "h4": "h5"}

    def change(node: Element, inner: list[Node]) -> list[Node]:
        if node.name in ("script", "style", "iframe", "form", "object", "embed", "noscript"):
            return []
        node.children = inner
        a = node.attributes
        for name in [n for n in a if n.startswith(("on", "data-")) or n in ("style", "align", "bgcolor")]:
            del a[name]
        node.name = down.get(node.name, node.name)
        if node.name not in ("table", "ul", "ol", "img") and "class" in a:
            del a["class"]
        if node.name == "img":
            a["class"] = "picture"
        if node.name in ("p", "span", "b", "i") and not inner:
            return []
        if node.name == "span":
            return inner
        return [node]

    return write(walk(tree(markup), change), text=lambda t: html.escape(t, quote=False), slash=" /")


def market(markup: str) -> str:
    """Few tags; others unwrapped with a blank in their place; links to two hosts only; text in numeric references."""
    keep = set("p b strong i em ul ol li br h3 a".split())

    def change(node: Element, inner: list[Node]) -> list[Node]:
        if node.name in (
            "script",
            "style",
            "iframe",
            "img",
            "svg",
            "form",
            "button",
            "select",
            "object",
            "video",
            "audio",
        ):
            return []
        if node.name not in keep:
            return inner
        node.children = inner
        href = node.attributes.get("href", "")
        node.attributes = {}
        if node.name == "a":
            if not re.match(r"https://(www\.)?gannetcove\.example/", href):
                return inner
            node.attributes = {"href": href, "rel": "noopener"}
        return [node]

    def text(data: str) -> str:
        return re.sub("[\x80-\uffff]", lambda c: f"&#{ord(c[0])};", html.escape(data, quote=False))

    return write([each for each in walk(tree(markup), change) if type(each) is not Comment], text=text)


def diary(markup: str) -> str:
    """Keeps all elements but a few, removes identifiers and names, puts a prefix before classes, lazy frames."""

    def change(node: Element, inner: list[Node]) -> list[Node]:
        if node.name in ("script", "object", "embed", "applet", "base", "meta", "link"):
            return []
        node.children = inner
        a = node.attributes
        for name in [n for n in a if n.startswith("on") or n in ("id", "name", "accesskey", "tabindex")]:
            del a[name]
        if a.get("class"):
            a["class"] = " ".join(f"d-{each}" for each in a["class"].split())
        for name in ("href", "src", "action"):
            if name in a and scheme(a[name]) in ("javascript", "vbscript", "data"):
                del a[name]
        if node.name in ("img", "iframe"):
            a["loading"] = "lazy"
        return [node]

    return write(walk(tree(markup), change))


FRESH: dict[str, Callable[[str], str]] = {
    "newsletter": newsletter,
    "wiki": wiki,
    "intake": intake,
    "handbook": handbook,
    "market": market,
    "diary": diary,
}
