"""A sheet that keeps up with the files it is made of, served to this machine only."""

from pathlib import Path


def script_text() -> str:
    """Return the script that keeps a sheet up to date."""
    return (Path(__file__).parent / "live.js").read_text("utf-8")
