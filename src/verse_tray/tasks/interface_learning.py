"""The Python interface of fitting and learning; beside :mod:`verse_tray.tasks.interface`, which has the rest."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from pathlib import Path

from msgspec import Struct, structs

from verse_tray.editors.load import Editor, load_editor, read_profile
from verse_tray.fitting.fit import fit as fit_to
from verse_tray.journeys.survival.counts import Survival
from verse_tray.learning.evidence import asked_names
from verse_tray.learning.learned import Returned, learn_from
from verse_tray.learning.session import STORED, Folder
from verse_tray.learning.trust import trust
from verse_tray.model.decoding import Source
from verse_tray.model.errors import InputError
from verse_tray.piece.piece import Piece


class FittedPiece(Struct, frozen=True):
    """A piece fitted to an editor.

    Its fields: ``pastes`` (what is to be pasted, in order), ``strategies`` (names of what was done), ``before`` and
    ``after`` (what of the author's piece survives as it was written, and of the fitted one), ``lost`` (sentences on
    what nothing could save).
    """

    pastes: tuple[str, ...]
    strategies: tuple[str, ...]
    before: Survival
    after: Survival
    lost: tuple[str, ...]


def fit(markup: str | Source | Piece, editor: str | Editor) -> FittedPiece:
    """Rewrite a piece so that more of it survives in an editor; as ``verse-tray fit``.

    >>> fitted = verse_tray.fit("<style>p { color: #b00020 }</style><p>Low water</p>", "mail-signoff")
    >>> fitted.pastes
    ('<p style="color: #b00020">Low water</p>',)
    >>> fitted.strategies
    ('rules-in-elements',)

    Args:
        markup: The piece.
        editor: The editor, its name or its path.

    Raises:
        UnknownEditorError, ProfileError: see :func:`load_editor`.
    """
    source = markup if isinstance(markup, Source | Piece) else Source(markup)
    piece = source if isinstance(source, Piece) else Piece(source)
    found = fit_to(piece, load_editor(editor) if isinstance(editor, str) else editor)
    return FittedPiece(
        found.texts,
        tuple(each.name for each in found.used),
        found.before.journey.survival,
        found.after.journey.survival,
        found.given_up,
    )


def learn(evidence: Path | str | Iterable[tuple[str, Mapping[str, str]]], *, visual: bool = False) -> Editor:
    """Infer an editor from what it made of probes; as ``verse-tray learn read``.

    >>> sent = 'q000z <p class="c1">w1</p> q001z <tide>w1</tide> q999z'
    >>> editor = verse_tray.learn([(sent, {"stored": "q000z <p>w1</p> q001z w1 q999z"})])
    >>> verse_tray.journey('<tide>a</tide> <p class="x">b</p>', editor).stages[-1].markup
    'a <p>b</p>'

    The editor's ``confidence`` says how many of 100 pieces it is expected to predict to the letter.

    Args:
        evidence: A folder of ``verse-tray learn``; or pairs of a text that was sent and what came back of it:
            ``stored``, ``reopened``, ``published``, any of them.
        visual: Whether the texts were pasted into a visual pane.

    Raises:
        InputError: nothing came back, or what did is of no use.
    """
    refused: tuple[int, ...] = ()
    if isinstance(evidence, Path | str):
        folder = Folder.read(Path(evidence))
        returned, refused, visual = folder.returned(), folder.refused, folder.session.visual or visual
    else:
        stages = {name: stage for stage, name in STORED.items()}
        returned = [Returned(sent, {stages[name]: text for name, text in back.items()}) for sent, back in evidence]
    if not returned:
        raise InputError("there is nothing to learn from: no text came back.")
    learned = learn_from(returned, refused, visual=visual)
    data = {"title": "Learned", "summary": "Learned from what it made of probes.", **learned.draft}
    profile = read_profile(data, "learned")
    return Editor("learned", structs.replace(profile, learned=asked_names(learned, trust(learned))))
