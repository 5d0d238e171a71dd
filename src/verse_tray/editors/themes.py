"""The themes of an editor's site: the usual one, and every other style sheet beside it."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from verse_tray.editors.load import Editor
from verse_tray.model.errors import ProfileError, ProfileFault, VerseTrayError
from verse_tray.model.inputs import read_utf8, stands_in
from verse_tray.model.phrasing import nearest


class UnknownThemeError(VerseTrayError):
    """A theme that no chosen editor has."""


def themes(editor: Editor) -> dict[str, str]:
    """Return the style sheets of an editor's site by name, the usual one first.

    Raises:
        ProfileError: a style sheet cannot be read.
    """
    usual = Path(editor.profile.theme).stem
    found = {usual: editor.theme}
    for path in sorted(editor.folder.glob("*.css")) if editor.folder else ():
        if path.stem in found:
            continue
        try:
            if not stands_in(path.parent, path):
                fault = ProfileFault("", "it is no plain file of the profile's folder; put the file itself there")
                raise ProfileError(str(path), [fault])
            found[path.stem] = read_utf8(path)
        except UnicodeDecodeError:
            raise ProfileError(str(path), [ProfileFault("", "it is not UTF-8; save it as UTF-8")]) from None
        except OSError as error:
            raise ProfileError(str(path), [ProfileFault("", error.strerror or str(error))]) from None
    return found


def chosen_looks(editors: Sequence[Editor], names: Sequence[str] = ()) -> dict[str, dict[str, str]]:
    """Return the style sheets to show for each editor by their themes' names, by the editor's name.

    No names at all is the usual theme; ``all`` is every theme. An editor that has none of the themes named shows its
    usual one.

    Raises:
        UnknownThemeError: a name that no editor has.
        ProfileError: a style sheet cannot be read.
    """
    chosen: dict[str, dict[str, str]] = {}
    known: dict[str, None] = {}
    for editor in editors:
        own = themes(editor) if names else {Path(editor.profile.theme).stem: editor.theme}
        known.update(dict.fromkeys(own))
        wanted = list(own) if "all" in names else [name for name in names if name in own]
        chosen[editor.name] = {name: own[name] for name in wanted or list(own)[:1]}
    for name in names:
        if name != "all" and name not in known:
            near = nearest(name, known)
            hint = f"Did you mean {near}? " if near else ""
            listed = ", ".join(known)
            raise UnknownThemeError(f"No editor chosen has a theme {name!r}. {hint}Known are: {listed}, or all.")
    return chosen
