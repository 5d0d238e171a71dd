"""Character references (HTML standard, 13.2.5.72 to 13.2.5.80) with a map from decoded to typed offsets."""

from __future__ import annotations

from functools import lru_cache

from verse_tray.model.patterns import lazy

_REFERENCE = lazy(r"&(?:#[0-9]+;?|#[xX][0-9a-fA-F]+;?|[A-Za-z][A-Za-z0-9]*;?)|\r\n?")


def decode(typed: str, *, attribute: bool) -> tuple[str, list[int] | None]:
    """Resolve references and fold line ends.

    Args:
        typed: The text as it stands in the source.
        attribute: Whether it is an attribute's value, where ``&copy=`` and ``&copyx`` stand for themselves.

    Returns:
        The decoded text, and for each of its offsets (its length included) the offset in ``typed``; None in place of
        the map when both are the same. It may be shared: treat it as read-only.
    """
    if "&" not in typed and "\r" not in typed:
        return typed, None
    return _decode_long(typed, attribute) if len(typed) > _LONG else _decode(typed, attribute)


def _decode(typed: str, attribute: bool) -> tuple[str, list[int]]:
    pieces: list[str] = []
    offsets: list[int] = []
    at = 0
    for match in _REFERENCE.finditer(typed):
        start, end = match.span()
        pieces.append(typed[at:start])
        offsets.extend(range(at, start))
        data, end = _resolve(typed, start, end, attribute)
        pieces.append(data)
        offsets.extend([start] * len(data))
        at = end
    pieces.append(typed[at:])
    offsets.extend(range(at, len(typed) + 1))
    return "".join(pieces), offsets


_LONG = 1_000  # signs
_decode_long = lru_cache(maxsize=2)(_decode)  # such a text is asked for a thousand of its parts, one after the other

_COMMON = {
    "&amp;": "&",
    "&lt;": "<",
    "&gt;": ">",
    "&quot;": '"',
    "&nbsp;": "\xa0",
    "&middot;": "\xb7",
    "&ndash;": "\u2013",
}


def _resolve(typed: str, start: int, end: int, attribute: bool) -> tuple[str, int]:
    reference = typed[start:end]
    if reference[0] == "\r":
        return "\n", end
    if (known := _COMMON.get(reference)) is not None:
        return known, end
    import html  # its table is large, and most pieces need none of it
    from html.entities import html5

    if reference[1] == "#":
        return html.unescape(reference), end
    name = reference[1:]
    for length in range(len(name), 1, -1):
        if name[:length] in html5:
            follower = typed[start + 1 + length : start + 2 + length]
            bare = name[length - 1] != ";"
            if attribute and bare and (follower == "=" or (follower.isascii() and follower.isalnum())):
                break
            return html5[name[:length]], start + 1 + length
    return "&", start + 1
