"""``verse-tray fit --from``: what an audit found damaged or broken is repaired."""

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

import typer

if TYPE_CHECKING:
    from verse_tray.tasks.audit_refit import Missed
    from verse_tray.tasks.audit_repair import Repaired


def fit_archive(store: Path, where: str, workers: int, editors: Sequence[str], out: Path | None, worst: str) -> None:
    """Repair the pieces of a store into a folder, and sum up what came of it.

    Args:
        store: The store.
        where: A filter; empty for all that is damaged or broken.
        workers: How many processes; 0 for one a core.
        editors: For which editors; none at all for each.
        out: The folder.
        worst: Verdict from which on the exit code is 1, or ``never``.
    """
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.screen import note, progress_told
    from verse_tray.model.findings import Verdict
    from verse_tray.tasks.audit_refit import Bounds
    from verse_tray.tasks.audit_repair import Repair, RepairRequest

    if out is None:
        raise typer.BadParameter("name the folder for the repaired pieces", param_hint="-o")
    repair = Repair(RepairRequest(str(store), str(out), where, tuple(editors), Bounds(workers)))
    if not repair.count:
        note("Nothing of this is damaged or broken: there is nothing to repair.")
        return
    with progress_told("Repairing") as going:
        done = repair.run(going)
    for line in _lines(done, repair.missed, out):
        note(line)
    if repair.missed.unread:
        raise typer.Exit(ExitCode.UNUSABLE)
    ranks = {verdict.value: verdict.rank for verdict in Verdict}
    if worst != "never" and any(ranks.get(each.now.verdict, 9) >= ranks[worst] for each in done):
        raise typer.Exit(ExitCode.FOUND)


def _lines(done: "Sequence[Repaired]", missed: "Missed", out: Path) -> list[str]:
    """Return what came of it, editor by editor."""
    from verse_tray.model.phrasing import counted, listed
    from verse_tray.tasks.audit_repair import INDEX

    lines = []
    for editor in sorted({each.row.editor for each in done}):
        mine = [each for each in done if each.row.editor == editor]
        fits = [each for each in mine if each.now.fit is not None]
        whole = [each for each in fits if each.now.verdict in ("intact", "rewritten")]
        better = [each for each in fits if each not in whole and each.now.fit and each.now.fit.changed]
        same = [each for each in fits if each not in whole and each not in better]
        parts = [(whole, "whole again"), (better, "better, and not whole"), (same, "left as they are: nothing helps")]
        aside = [each for each in mine if each.now.fit is None]
        told = [f"{len(some):,} {what}" for some, what in (*parts, (aside, "set aside")) if some]
        lines.append(f"{editor}: of {counted(len(mine), 'piece')}, {', '.join(told)}.")
        lines += [f"  set aside: {each.row.name}: {each.now.why}" for each in aside[:5]]
    for names, what in ((missed.changed, "changed since the audit"), (missed.gone, "gone from their source")):
        if names:
            lines.append(f"{counted(len(names), 'piece')} {what}, and left alone: {listed(names, 3)}. Audit again.")
    lines += [f"verse-tray: {each} Its pieces were left alone." for each in missed.unread]
    if any(each.files for each in done):
        lines.append(f"Wrote them into {out}, each with what was done to it; {out / INDEX} lists them.")
    else:
        lines.append(f"Wrote {out / INDEX}, which lists them, and nothing else.")
    return lines
