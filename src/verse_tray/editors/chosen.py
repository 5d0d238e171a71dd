"""Editors as they are asked for: several, all, or one with all its variants."""

from __future__ import annotations

from collections.abc import Iterable

from verse_tray.editors.load import Editor, known_editors, load_editor
from verse_tray.editors.profile import Profile


def chosen_editors(names: Iterable[str] | None) -> list[Editor]:
    """Return the editors of that name or path.

    ``all``, or none at all, is every known one in its usual setting; ``NAME:all`` is one with all its variants.

    Raises:
        UnknownEditorError, ProfileError: see :func:`verse_tray.load_editor`.
    """
    wanted: list[str] = []
    for name in names or ["all"]:
        if name == "all":
            wanted += known_editors()
        elif name.endswith(":all"):
            plain = name.removesuffix(":all")
            wanted += [plain, *(f"{plain}:{variant}" for variant in load_editor(plain).profile.variants)]
        else:
            wanted.append(name)
    return [load_editor(name) for name in dict.fromkeys(wanted)]


def plain_editor() -> Editor:
    """Return an editor that keeps everything, in a plain page: where a piece is looked at without one."""
    return Editor("", Profile(format="verse-tray-editor/1", title="", summary=""))
