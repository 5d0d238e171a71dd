"""A row for each piece and editor of an audit, as CSV (RFC 4180) or Parquet, through pandas (extra ``audit``)."""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import TYPE_CHECKING

from verse_tray.audit.answers import Row

if TYPE_CHECKING:
    from pandas import DataFrame

ENDINGS = (".csv", ".parquet")
"""Endings of the files that a table can be written to."""


def audit_table(rows: Sequence[Row], ending: str) -> bytes:
    """Return rows as a file of that ending; in CSV a quote stands before what a spreadsheet takes for a formula."""
    import pandas

    frame = pandas.DataFrame(rows, columns=list(Row._fields))
    if ending == ".parquet":
        made = io.BytesIO()
        frame.to_parquet(made, engine="pyarrow", index=False)
        return made.getvalue()
    return _safe(frame).to_csv(index=False, lineterminator="\r\n").encode("utf-8", "replace")


def _safe(frame: DataFrame) -> DataFrame:
    texts = frame.select_dtypes(exclude="number").columns
    return frame.assign(
        **{name: frame[name].astype(str).str.replace(r"^(?=[=+@-])", "'", regex=True) for name in texts}
    )
