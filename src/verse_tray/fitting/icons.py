"""Pictures that were drawn of icons, for editors that keep no drawings."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple


class Icon(NamedTuple):
    """A picture of a drawing."""

    address: str
    """The address under which it will be."""
    width: int
    """Its width in CSS pixels."""
    height: int
    """Its height."""


Icons = Mapping[str, Icon]
"""Pictures by the markup of the drawings as it is typed."""
