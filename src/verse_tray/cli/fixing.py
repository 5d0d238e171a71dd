"""``verse-tray check --fix``."""

from __future__ import annotations

from pathlib import Path


def fix_files(files: list[str], silenced: tuple[str, ...], *, write: bool) -> bool:
    """Show what can be mended in files, or mend them; what comes from standard input goes to standard output.

    Returns:
        Whether there was anything to mend.
    """
    from verse_tray.cli.files import console, note, print_bytes, read_piece, show, write_whole
    from verse_tray.edit.mend import mend
    from verse_tray.reports.mend_text import mend_text

    pieces = [read_piece(name) for name in files]
    found = False
    for piece in pieces:
        source = piece.source
        mended = mend(piece, silenced=silenced, folder=Path(source.name).parent)
        found = found or bool(mended.mended)
        if not write:
            screen = console()
            show(screen, mend_text(source, mended))
        elif source.name == "-":
            print_bytes(source.encode(mended.text))
        elif mended.mended:
            kept = keep(Path(source.name))
            write_whole(Path(source.name), source.encode(mended.text))
            count = len(mended.mended)
            note(f"{source.name}: {count} mended; as it was, it is kept in {kept}.")
        else:
            note(f"{source.name}: there is nothing to mend.")
    return found


def keep(path: Path) -> Path:
    """Write a file, byte for byte, beside it under a name that nothing has."""
    from verse_tray.cli.files import write_whole

    number = 1
    kept = path.with_name(f"{path.name}.bak")
    while kept.exists():
        number += 1
        kept = path.with_name(f"{path.name}.bak{number}")
    write_whole(kept, path.read_bytes())
    return kept
