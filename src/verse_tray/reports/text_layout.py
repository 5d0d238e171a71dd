"""Texts of a report, and rows of them: laid out here where all is plain, else by the library for terminals.

To load that library takes longer than many a check, and what goes into a file or through a pipe has no colours. Where
the layout would need more than that every sign is one cell wide, it is the library's all the same.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from rich.table import Table
    from rich.text import Text

_LEAST = 8  # cells of the last column with fewer of which the others shrink too


class Words:
    """A text in styles."""

    def __init__(self, *parts: str | tuple[str, str], wrapped: bool = False) -> None:
        """Take its parts.

        Args:
            parts: Texts, each alone or with its style.
            wrapped: Whether it is wrapped; else it stands on its line however long it is, so that it can be copied.
        """
        self._parts = parts
        self.wrapped = wrapped
        """Whether it is wrapped."""
        self.text = "".join(part if isinstance(part, str) else part[0] for part in parts)
        """All of it, without the styles."""

    def after(self, *parts: str | tuple[str, str]) -> Words:
        """Return it behind others."""
        return Words(*parts, *self._parts, wrapped=self.wrapped)

    def __rich__(self) -> Text:
        """Return it as the library for terminals has it."""
        from rich.text import Text

        style = self._parts[0][1] if len(self._parts) == 1 and isinstance(self._parts[0], tuple) else ""
        return Text(self.text, style) if style else Text.assemble(*self._parts)

    def plain(self, width: int) -> str | None:
        """Return it as plain lines, or None where that takes more than is done here."""
        lines = self.text.split("\n")
        if not all(map(_one_cell_each, lines)):
            return None
        return "\n".join(line for each in lines for line in (_folded(each, width) if self.wrapped else [each])) + "\n"


class Rows:
    """Rows of texts, each column as wide as its widest."""

    def __init__(
        self,
        rows: Iterable[Sequence[Words]],
        headings: Sequence[str] = (),
        *,
        is_right: bool = False,
        is_folded: bool = False,
    ) -> None:
        """Take the rows.

        Args:
            rows: Rows of equally many texts of one line. Gaps between columns stand in the texts.
            headings: Headings of the columns, if they have any.
            is_right: Whether the texts of the first column stand on the right.
            is_folded: Whether the last column folds its texts, where there is not enough room.
        """
        self._rows = list(rows)
        self._headings = headings
        self._is_right = is_right
        self._is_folded = is_folded

    def __rich__(self) -> Table:
        """Return it as the library for terminals has it."""
        from rich.table import Table

        table = Table(box=None, show_header=bool(self._headings), padding=0)
        count = len(self._rows[0])
        for number in range(count):
            folds = self._is_folded and number == count - 1
            table.add_column(
                self._headings[number] if self._headings else "",
                header_style="bold",
                justify="right" if self._is_right and not number else "left",
                no_wrap=not folds,
                overflow="fold" if folds else "ellipsis",
            )
        for row in self._rows:
            table.add_row(*row)
        return table

    def plain(self, width: int) -> str | None:
        """Return it as plain lines, or None where that takes more than is done here."""
        rows = [[cell.text for cell in row] for row in self._rows]
        if self._headings:
            rows.insert(0, list(self._headings))
        if not all(_one_cell_each(cell) for row in rows for cell in row):
            return None
        widths = [max(map(len, column)) or 1 for column in zip(*rows, strict=True)]
        left = width - sum(widths[:-1])
        if widths[-1] > left:
            if left < max(_LEAST, sum(map(len, self._headings[-1:]))) or not self._is_folded:
                return None
            widths = [max(map(len, column)) for column in zip(*rows, strict=True)]
            widths[-1] = left
        lines = []
        for row in rows:
            front = "".join(
                cell.rstrip().rjust(size) if self._is_right and not number else cell.ljust(size)
                for number, (cell, size) in enumerate(zip(row[:-1], widths[:-1], strict=True))
            )
            for line in _folded(row[-1], widths[-1]):
                lines.append(f"{front}{line.ljust(widths[-1])}\n")
                front = " " * len(front)
        return "".join(lines)


def _one_cell_each(text: str) -> bool:
    """Tell whether each sign of a line is one cell wide: those are, of which that is known for certain."""
    if text.isascii():
        return text.isprintable()
    return re.fullmatch("[ -~¡-¬®-˿Ͱ-҂Ҋ-ԯ‐-‧‰-⁞←-↙]*", text) is not None


def _folded(line: str, width: int) -> list[str]:
    """Return the lines that a line makes: words that are wider than a line are cut, the others stay whole."""
    lines = [""]
    for word in re.findall(r"\s*\S+\s*", line):
        bare = len(word.rstrip())
        if len(lines[-1]) + bare <= width:
            lines[-1] += word
            continue
        parts = [word]
        if bare > width:
            parts = [word[start : start + width] for start in range(0, len(word), width)]
        if lines[-1]:
            lines += parts
        else:
            lines = parts
    return [each[: max(width, len(each.rstrip()))] for each in (lines if lines[-1] else [line])]
