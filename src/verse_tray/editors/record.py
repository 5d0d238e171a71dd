"""What every record of a profile is."""

from typing import Annotated

from msgspec import Meta, Struct

Name = Annotated[str, Meta(min_length=1)]
Positive = Annotated[int, Meta(ge=1)]
NotNegative = Annotated[int, Meta(ge=0)]


class Record(Struct, frozen=True, forbid_unknown_fields=True, rename="camel", kw_only=True):
    """Frozen, strict, with camel-case keys."""
