"""Names that the HTML standard gives a meaning to in parsing and serialising."""

from __future__ import annotations

HTML, SVG, MATHML = "html", "svg", "mathml"

VOID = frozenset("area base br col embed hr img input link meta source track wbr".split())
"""Elements without contents (13.1.2)."""
SERIALISED_AS_VOID = VOID | frozenset("basefont bgsound frame keygen param".split())
"""Elements that the serialising algorithm writes without an end tag (13.3)."""
ESCAPABLE_RAW_TEXT = frozenset(("title", "textarea"))
RAW_TEXT = frozenset(("style", "xmp", "iframe", "noembed", "noframes", "script", "plaintext"))
"""Elements whose text is neither tags nor references, scripting being off."""
FORMATTING = frozenset("a b big code em font i nobr s small strike strong tt u".split())
"""Elements on the list of active formatting elements (13.2.4.3)."""
INVISIBLE = frozenset(
    "head title style script template noscript noembed noframes iframe datalist object audio video canvas".split()
)
"""Elements whose text readers do not see while the element does its own work."""

BLOCKS = frozenset(
    "address article aside blockquote caption center colgroup dd details dialog dir div dl dt fieldset figcaption "
    "figure footer form h1 h2 h3 h4 h5 h6 header hgroup hr legend li main menu nav ol p pre search section summary "
    "table tbody td tfoot th thead tr ul".split()
)
"""Elements that pages show as blocks (15.3, "Flow content", "Lists", "Tables")."""
TEXT_LEVEL = FORMATTING | frozenset(
    "abbr bdi bdo cite data del dfn ins kbd label mark q samp span sub sup time var".split()
)
"""Elements that pages show within a line (4.5)."""
CODE = frozenset("code kbd listing plaintext pre samp tt var xmp".split())
"""Elements that hold code samples and the like."""

# 13.2.4.2 "The stack of open elements": the scopes, and the special elements that end the search for an open li
MARKERS = frozenset("applet caption marquee object td template th".split())
SCOPE = MARKERS | frozenset("html table select mi mo mn ms mtext annotation-xml foreignobject desc".split())
TABLE_SCOPE = frozenset("html table template".split())
TABLE_PARTS = frozenset("caption table tbody td tfoot th thead tr template".split())
SPECIAL = SCOPE | frozenset(
    "article aside blockquote body button center colgroup dd details dir dl dt fieldset figcaption figure footer form "
    "frameset h1 h2 h3 h4 h5 h6 head header hgroup iframe li listing main menu nav noembed noframes noscript ol "
    "plaintext pre script search section style summary tbody textarea tfoot thead title tr ul xmp".split()
)

SVG_INTEGRATION = frozenset(("foreignobject", "desc", "title"))
MATHML_TEXT_INTEGRATION = frozenset("mi mo mn ms mtext".split())
BREAKOUT = frozenset(
    "b big blockquote body br center code dd div dl dt em embed h1 h2 h3 h4 h5 h6 head hr i img li listing menu meta "
    "nobr ol p pre ruby s small span strong strike sub sup table tt u ul var".split()
)
"""Start tags that leave foreign content (13.2.6.5); ``font`` does with some attributes only."""


_CAPITALS = {capital: capital + 32 for capital in range(ord("A"), ord("Z") + 1)} | {0: "\ufffd"}


def fold_name(name: str) -> str:
    """Return a tag's or an attribute's name as the tokenizer does: ASCII in lower case, U+FFFD for NUL."""
    return name.lower() if name.isascii() and "\0" not in name else name.translate(_CAPITALS)


def child_namespace(parent: str, parent_name: str, name: str, html_annotation: bool = False) -> str:
    """Return the namespace of a new child, as the tree construction dispatcher gives it (13.2.6).

    ``parent`` and ``parent_name`` are the namespace and the name of the adjusted current node;
    ``html_annotation`` says that it is an ``annotation-xml`` whose encoding makes it an HTML integration point.
    """
    if parent == SVG and parent_name.lower() not in SVG_INTEGRATION:
        return SVG
    if parent == MATHML:
        if parent_name == "annotation-xml":
            if name == "svg":
                return SVG
            if not html_annotation:
                return MATHML
        elif parent_name not in MATHML_TEXT_INTEGRATION or name in ("mglyph", "malignmark"):
            return MATHML
    return SVG if name == "svg" else MATHML if name == "math" else HTML
