"""The example data: pieces of the Gannet Cove Shore Survey, a made-up group that counts tide-pool life."""

from __future__ import annotations

from pathlib import Path

_PIECES = Path(__file__).parent / "pieces"


def example() -> dict[Path, bytes]:
    """Return the example's files by their path within its folder."""
    files = sorted(path for path in _PIECES.rglob("*") if path.is_file() and "__pycache__" not in path.parts)
    return {path.relative_to(_PIECES): path.read_bytes() for path in files}
