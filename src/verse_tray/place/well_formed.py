"""Pieces for templates in the manner of XML, whose engines refuse what is not well-formed."""

from __future__ import annotations

from xml.parsers import expat

from verse_tray.model.decoding import Source
from verse_tray.model.findings import Finding, Severity

_MOST = 2_000_000  # signs


def not_well_formed(piece: Source) -> Finding | None:
    """Return a finding for the first place at which a piece is no well-formed XML (XML 1.0); None where it is."""
    parser = expat.ParserCreate()
    parser.SetParamEntityParsing(expat.XML_PARAM_ENTITY_PARSING_NEVER)
    try:
        parser.Parse(f"<piece>{piece.text[:_MOST]}</piece>".encode("utf-8", "replace"), True)
    except expat.ExpatError as error:
        line, column = error.lineno, error.offset + 1
        if line == 1:
            column = max(1, column - len("<piece>"))
        text = (
            "The template is written in the manner of XML, and this is not well-formed: "
            f"{expat.ErrorString(error.code)}. Close every tag (<br/>), put every value in quotes, write &#160; for "
            "&nbsp;, and wrap scripts in <![CDATA[ … ]]>."
        )
        return Finding("place/not-well-formed", "written", text, line, column, Severity.WARNING)
    return None
