"""Values written for what they stand in: no other address, declaration or code, and read back as they were."""

from __future__ import annotations

import re
from collections.abc import Callable
from urllib.parse import quote

import tinycss2

from verse_tray.markup.addresses import host_of, scheme_of
from verse_tray.markup.serialise import escape_for_quote
from verse_tray.markup.vocabulary import BOOLEAN
from verse_tray.model.patterns import lazy
from verse_tray.piece.contexts import Context, Quoted, Refused

_SAFE_IN_ADDRESS = "!$&'()*+,;=:/?#[]@%~-._"
RUNNING_SCHEMES = ("javascript", "vbscript", "data")
"""Schemes whose addresses run, or show, what is written in them."""
_USUAL_SCHEMES = ("https", "http", "mailto", "tel", "sms", "ftp")
_NUMBER = lazy(r"-?(?:0|[1-9]\d{0,14})(?:\.\d{1,14})?")
_STYLE_KINDS = frozenset("ident number percentage dimension hash whitespace string function".split())
_LOADING = frozenset(("url", "src", "image", "image-set", "-webkit-image-set", "expression"))


def written(value: str, place: Quoted) -> str:
    """Return any value as it is typed at a place, encoded so that it keeps to what it stands in.

    Raises:
        Refused: no way of writing it keeps it a value here.
    """
    if place.context is Context.NOWHERE:
        raise Refused(place.why)
    if "\0" in value:
        raise Refused("it holds a NUL, which no page can hold")
    typed = Quoted(place.context, place.quote).typed(encoded(value, place.context))
    for layer in place.around:
        typed = in_script_string(typed) if layer == "script" else escape_for_quote(typed, layer)
    return typed


def encoded(value: str, context: Context) -> str:
    """Return a value so that it means itself in a context.

    Raises:
        Refused: no way of writing it keeps it a value there.
    """
    encode = _ENCODERS.get(context)
    return value if encode is None else encode(value)


def in_script_string(value: str) -> str:
    """Escape for the inside of a JavaScript string, whatever its quotes (ECMAScript, 12.9.4)."""
    return re.sub(r"[\\\"'`<>&$\n\r\u2028\u2029]", lambda sign: f"\\u{ord(sign[0]):04x}", value)


def _in_script(value: str) -> str:
    if scheme_of(value) in ("javascript", "vbscript"):
        raise Refused(f"an address that begins with {scheme_of(value)}: would run code")
    return in_script_string(value)


def _as_json(value: str) -> str:
    """Return a value as a JSON literal (RFC 8259): what looks like a number, true, false and null as such."""
    if value in ("true", "false", "null") or _NUMBER.fullmatch(value):
        return value
    return f'"{_in_script(value)}"'


def _as_expression(value: str) -> str:
    typed = _as_json(value)
    return f"({typed})" if typed.startswith("-") else typed  # behind another minus it were an operator


def _address(value: str, *, picture: bool = False) -> str:
    value = value.strip()
    scheme = scheme_of(value)
    if scheme in RUNNING_SCHEMES and not (picture and re.match(r"data:image/[\w.+-]+[;,]", value, re.IGNORECASE)):
        raise Refused(f"an address that begins with {scheme}: would run code")
    if (scheme in ("http", "https", "ftp") or value.startswith("//")) and host_of(value) is None:
        raise Refused("its host is none that browsers can look up; look for a blank or a sign too many in it")
    return quote(value, safe=_SAFE_IN_ADDRESS)


def _scheme(value: str) -> str:
    if value.strip().lower() not in _USUAL_SCHEMES:
        raise Refused(f"of an address only the schemes {', '.join(_USUAL_SCHEMES)} are filled in")
    return value.strip()


def _host(value: str) -> str:
    value = value.strip()
    if not re.fullmatch(r"[\w.-]+(?::\d{1,5})?", value):
        what = "a blank" if re.search(r"\s", value) else "a sign"
        raise Refused(f"there is {what} in it that no host has")
    return value


def _path(value: str) -> str:
    value = value.strip()
    front = re.match(r"[/\\]+", value)  # behind a slash, another would begin a host
    return quote(value, safe="-._~!$'()*,;=@/") if front is None else quote(value, safe="-._~")


def _mail(value: str) -> str:
    value = value.strip()
    if re.search(r"\s", value):
        raise Refused("there is a blank in the mail address")
    return quote(value, safe="-._~@+,!$'*")


def _phone(value: str) -> str:
    value = re.sub(r"\s+", "", value)
    if not re.fullmatch(r"[+\d().#*-]+", value):
        raise Refused("a telephone number has digits, + - ( ) and dots only")
    return value


def _in_srcset(value: str) -> str:
    value = value.strip()
    scheme = scheme_of(value)
    if scheme in RUNNING_SCHEMES:
        raise Refused(f"an address that begins with {scheme}: cannot stand among others")
    if (scheme in ("http", "https") or value.startswith("//")) and host_of(value) is None:
        raise Refused("its host is none that browsers can look up; look for a blank or a sign too many in it")
    return quote(value, safe=_SAFE_IN_ADDRESS.replace(",", ""))


def _in_style(value: str) -> str:
    """Hold a value against what one declaration's value can be made of (CSS Syntax Level 3)."""
    why = "in a style only colours, sizes, words, quoted names and functions of these can stand"
    if re.search(r"[{};<>\\@!]|/\*", value) or not value.strip():
        raise Refused(why)
    nodes = tinycss2.parse_component_value_list(value.strip() + ";")  # the sign shows that nothing is left open
    if not nodes or nodes[-1].type != "literal" or nodes[-1].value != ";" or not _is_plain_style(nodes[:-1], False):
        raise Refused(why)
    if nodes[0].type == "literal" or nodes[-2].type == "literal":
        raise Refused(why)
    return value.strip()


def _is_plain_style(nodes: list[tinycss2.ast.Node], within: bool) -> bool:
    for node in nodes:
        if node.type == "literal":
            if node.value not in (",", "/", *("+", "-", "*") * within):
                return False
        elif node.type not in _STYLE_KINDS or (
            node.type == "function"
            and (node.lower_name in _LOADING or not _is_plain_style(node.arguments, within=True))
        ):
            return False
    return True


def _style_part(value: str) -> str:
    if not re.fullmatch(r"-?[\w.%]*[\w%]", value.strip()):
        raise Refused("joined to other signs of a style only digits, letters and a unit can stand")
    return value.strip()


def _style_name(value: str) -> str:
    if not re.fullmatch(r"-{0,2}[^\W\d][\w-]*", value.strip()):
        raise Refused("a name in a style begins with a letter, and has letters, digits and hyphens only")
    return value.strip()


def _style_name_part(value: str) -> str:
    if not re.fullmatch(r"[\w-]*\w[\w-]*", value.strip()):
        raise Refused("a name in a style has letters, digits and hyphens only")
    return value.strip()


def in_style_string(value: str) -> str:
    """Escape for the inside of a CSS string, whatever its quotes (CSS Syntax Level 3, 4.3.7)."""
    return re.sub(r"[\\\"'<&\n\r\f]", lambda sign: f"\\{ord(sign[0]):x} ", value)


def _style_address(value: str) -> str:
    scheme = scheme_of(value)
    if scheme in RUNNING_SCHEMES and not value.strip().lower().startswith("data:image/"):
        raise Refused(f"an address that begins with {scheme}: would run code")
    return re.sub(r"[()'\"\s\\<>\x00-\x20\x7f]", lambda s: "".join(f"%{b:02X}" for b in s[0].encode()), value.strip())


def _only(pattern: str, why: str) -> Callable[[str], str]:
    def held(value: str) -> str:
        if not re.fullmatch(pattern, value, re.DOTALL):
            raise Refused(why)
        return value

    return held


def _bare_word(value: str) -> str:
    if value.strip().lower() not in BOOLEAN:
        raise Refused("inside a tag, outside every value, only an attribute that needs no value can stand")
    return value.strip()


_ENCODERS: dict[Context, Callable[[str], str]] = {
    Context.ADDRESS: _address,
    Context.PICTURE_ADDRESS: lambda value: _address(value, picture=True),
    Context.SCHEME: _scheme,
    Context.HOST: _host,
    Context.PATH: _path,
    Context.ADDRESS_PART: lambda value: quote(value.strip(), safe="-._~"),
    Context.MAIL: _mail,
    Context.PHONE: _phone,
    Context.SRCSET: _in_srcset,
    Context.STYLE: _in_style,
    Context.STYLE_PART: _style_part,
    Context.STYLE_NAME: _style_name,
    Context.STYLE_NAME_PART: _style_name_part,
    Context.STYLE_STRING: in_style_string,
    Context.STYLE_ADDRESS: _style_address,
    Context.SCRIPT: _in_script,
    Context.SCRIPT_VALUE: _as_expression,
    Context.JSON_VALUE: _as_json,
    Context.CODE_COMMENT: _only(
        r"(?!/)(?!.*\*/)[^<\n\r\u2028\u2029]*(?<!\*)",
        "in a comment of code no line end and no sign that ends it can stand",
    ),
    Context.COMMENT: _only(r"(?!.*--)(?!-)[^<>\0]*(?<![-!])", "in a comment no “--”, < or > can stand"),
    Context.CONDITIONAL: _only(
        r"(?!.*--)[^<>&\"'\0]*(?<![-!])", "a comment that some programs read keeps to plain words"
    ),
    Context.RAW: _only(r"[^<>\]\0]*", "this text knows no references, so no < > or ] can stand in it"),
    Context.BARE_WORD: _bare_word,
    Context.NAME_OF_TAG: _only(r"\d{1,2}", "in the name of a tag only a number can stand, such as that of a heading"),
}
