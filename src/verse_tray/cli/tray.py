"""Commands that are called without a file: they work on the tray of the folder."""

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

import typer

from verse_tray.model.findings import Verdict

if TYPE_CHECKING:
    from verse_tray.tasks.tray import TrayAtWork

HERE = Path()
"""The folder that a tray is looked for in."""


def tray_asked(context: typer.Context, *allowed: str) -> None:
    """Refuse a command without a file where there is no tray, or with options that are for a file.

    Args:
        context: What was asked for.
        allowed: Names of the parameters that are for a tray too.
    """
    from verse_tray.cli.options import only_options
    from verse_tray.trays.load import is_tray

    if not is_tray(HERE):
        told = "give at least one file of HTML, or - for standard input; without one, the tray of a folder is taken, "
        raise typer.BadParameter(f"{told}and there is no tray.toml in this one", param_hint="FILE...")
    only_options(context, "has no part in this: a tray is taken as its tray.toml says; name a file for it", *allowed)


def opened() -> "TrayAtWork":
    """Return the tray of this folder.

    Raises:
        InputError, SettingsError: there is none, or it cannot be used.
    """
    from verse_tray.tasks.tray import TrayAtWork

    return TrayAtWork(HERE)


def check_tray(form: str, threshold: Verdict | None, *, every: bool) -> bool:
    """Check the pieces that have changed, say how all are, and return whether one is at or above the threshold."""
    from verse_tray.cli.screen import console, explain, print_raw, show, with_progress
    from verse_tray.reports.tray_text import checked_text

    tray = opened()
    text = form == "text"
    changed = tray.changed(tray.state.checked) if text else list(tray.pieces)
    screen = console()
    if changed:
        from verse_tray.reports.formats import Wanted, report_in
        from verse_tray.tasks.tray import check_tray

        results = with_progress(check_tray(tray, changed), len(changed), "Checking", 2)
        report, wanted = report_in(form), Wanted(every, screen.width, threshold, in_tray=True)
        if text:
            show(screen, report(results, wanted))
        else:
            print_raw(report(results, wanted))
        tray.save()
        explain(tray.notes)
    known = {name: tray.state.checked[name] for name in tray.pieces}
    if text:
        show(screen, checked_text(tray.loaded.tray.title, known, changed, "checked"))
    return _reaches([each.verdicts for each in known.values()], threshold)


def _reaches(verdicts: Sequence[dict[str, str]], threshold: Verdict | None) -> bool:
    ranks = [Verdict(each).rank for of_piece in verdicts for each in of_piece.values()]
    return threshold is not None and max(ranks, default=0) >= threshold.rank


def fit_tray(threshold: Verdict | None) -> bool:
    """Fit the pieces that have changed to the editors of their places, and say how all are."""
    from verse_tray.cli.screen import console, explain, note, show, with_progress
    from verse_tray.reports.tray_text import checked_text
    from verse_tray.tasks.tray import fit_tray

    tray = opened()
    changed = tray.changed(tray.state.fitted)
    for _ in with_progress(fit_tray(tray, note), len(changed), "Fitting", 2):
        pass
    explain(tray.notes)
    known = {name: tray.state.fitted[name] for name in tray.pieces}
    show(console(), checked_text(tray.loaded.tray.title, known, changed, "fitted"))
    if changed:
        note("The fitted pieces are in the folder fitted, one for each place.")
    return _reaches([each.verdicts for each in known.values()], threshold)


def place_tray(threshold: Verdict | None) -> bool:
    """Place the pieces on every site on which something has changed, and say what is ready to paste."""
    from verse_tray.cli.screen import console, explain, show, with_progress
    from verse_tray.model.errors import InputError
    from verse_tray.reports.tray_text import placed_text
    from verse_tray.tasks.tray_placing import place_tray, stale_sites, standings

    tray = opened()
    if not tray.sites:
        raise InputError('tray.toml: no piece says where it goes. Add [[pieces.NAME.on]] with page = "SITE:PAGE".')
    stale = stale_sites(tray)
    changed = [site for site, _ in with_progress(place_tray(tray), len(stale), "Placing", 2)]
    explain(tray.notes)
    show(console(), placed_text(tray.loaded.tray.title, tray.state.placed, changed, standings(tray)))
    return _reaches([each.verdicts for each in tray.state.placed.values()], threshold) or any(
        threshold is not None and each.findings for each in tray.state.placed.values()
    )


def tick_off(numbers: list[str], site: str | None) -> None:
    """Remember that pastes were pasted."""
    from verse_tray.cli.screen import note
    from verse_tray.tasks.tray_placing import tick_off

    for each in tick_off(opened(), numbers, site):
        note(f"Ticked off {each.number}: {', '.join(each.pieces)} in {each.target}.")


def show_standing() -> None:
    """Print what stands where."""
    from verse_tray.cli.screen import console, show
    from verse_tray.reports.tray_text import standing_text
    from verse_tray.tasks.tray_placing import standings

    show(console(), standing_text(standings(opened())))


def preview_tray() -> None:
    """Write a sheet for each piece that has changed."""
    from verse_tray.cli.screen import explain, note, with_progress
    from verse_tray.tasks.tray_views import preview_tray

    tray = opened()
    changed = tray.changed(tray.state.previewed)
    for path in with_progress(preview_tray(tray), len(changed), "Looking", 2):
        note(f"Wrote {path}: open it in a browser.")
    explain(tray.notes)
    if not changed:
        note("Nothing has changed: the sheets in the folder previews show the pieces as they are.")
