"""Moments, as RFC 3339 has them."""

from __future__ import annotations

from datetime import UTC, datetime


def now() -> str:
    """Return this moment, in UTC, to the second."""
    return datetime.now(UTC).isoformat(timespec="seconds").replace("+00:00", "Z")
