"""``verse-tray learn``."""

from pathlib import Path
from typing import Annotated

import typer

from verse_tray.cli.options import Format

app = typer.Typer(
    help="Learn what an editor does: write a probe, paste it, read what came back.",
    no_args_is_help=True,
    rich_markup_mode=None,
)

Session = Annotated[Path, typer.Argument(metavar="FOLDER", help="Folder in which the editor is learned.")]


@app.command("begin")
def begin(
    name: Annotated[str, typer.Argument(metavar="NAME", help="Name of the editor: also that of its folder.")],
    most: Annotated[
        int, typer.Option("--most", metavar="CHARACTERS", help="Most characters that a probe may have.")
    ] = 10_000,
    output: Annotated[
        Path | None, typer.Option("-o", "--output", metavar="FOLDER", help="Folder; left out: NAME.")
    ] = None,
    host: Annotated[
        list[str] | None,
        typer.Option("--host", metavar="HOST", help="Host whose frames and links are asked about; may be repeated."),
    ] = None,
    class_: Annotated[
        list[str] | None, typer.Option("--class", metavar="CLASS", help="Class that is asked about; may be repeated.")
    ] = None,
    like: Annotated[
        list[Path] | None,
        typer.Option("--like", metavar="PIECE", help="Piece of yours: what it holds is asked about; may be repeated."),
    ] = None,
    visual: Annotated[
        bool, typer.Option("--visual", help="The editor has only a visual pane: a page to copy from is written too.")
    ] = False,
) -> None:
    """Write the first probe: a text to paste into the editor.

    Nothing in it does anything: its code is words in quotes, its pictures and frames are of hosts that cannot exist.

    \b
    Examples:
      verse-tray learn begin our-blog
      verse-tray learn begin our-blog --like page.html --host films.example.org
      verse-tray learn begin forum --most 2000
    """
    from verse_tray.cli.screen import note
    from verse_tray.tasks.learn import BeginRequest, begin

    folder = output or Path(name)
    probe = begin(BeginRequest(name, folder, most, visual, tuple(host or ()), tuple(class_ or ()), tuple(like or ())))
    note(f"Wrote {folder / 'probe-1.html'}: {len(probe.text):,} characters, {len(probe.questions)} cells.")
    _how(folder, 1, visual=visual)


def _how(folder: Path, number: int, *, visual: bool) -> None:
    from verse_tray.cli.screen import note

    if visual:
        note(f"1. Open {folder / f'probe-{number}.page.html'} in a browser, copy what it says, paste it, and save.")
    else:
        note("1. Paste all of it into the editor's source pane, on a page that nobody reads, and save.")
    note(f"2. Copy the source that the editor shows then into {folder / f'stored-{number}.html'}.")
    note(f"3. If it has a visual pane: open the page in it, save, and copy the source into reopened-{number}.html.")
    note(f"4. If it is published: copy the page's own source into published-{number}.html.")
    note(f"Then: verse-tray learn read {folder}    (if it was refused: --refused {number})")


@app.command("read")
def read(
    folder: Session,
    pair: Annotated[
        tuple[Path, Path] | None,
        typer.Option("--pair", metavar="SENT BACK", help="A piece, and what the editor made of it; both are kept."),
    ] = None,
    refused: Annotated[
        int, typer.Option("--refused", metavar="NUMBER", help="Number of a probe that the editor refused.")
    ] = 0,
    visual: Annotated[bool, typer.Option("--visual", help="The probe was pasted into a visual pane.")] = False,
) -> None:
    """Read what came back, and write the editor's profile.

    \b
    Examples:
      verse-tray learn read our-blog
      verse-tray learn read our-blog --refused 1
      verse-tray learn read our-blog --pair page.html page-as-stored.html
    """
    from verse_tray.cli.screen import note, print_raw
    from verse_tray.reports.learn_text import advice_text, confidence_text
    from verse_tray.tasks.learn import EDITOR, note_refusal, read

    if refused and not note_refusal(folder, refused) and pair is None:
        note(f"Noted: the editor refused probe-{refused}.html. A shorter one: verse-tray learn next {folder}")
        return
    found = read(folder, pair, visual=visual)
    wrote = f"Wrote {folder / EDITOR}" if found.changed else f"{folder / EDITOR} is as it was"
    if found.kept is not None:
        note(f"{folder / EDITOR} had been changed since it was written; it is kept as {found.kept}.")
    print_raw(f"{wrote}. Use it with: --editor {folder if folder.is_absolute() else f'./{folder}'}\n")
    print_raw(confidence_text(found.evidence) + "\n")
    print_raw(advice_text(found.evidence, str(folder), found.telling) + "\n")


@app.command("next")
def next_(folder: Session) -> None:
    """Write the next probe, where one more would tell something; else say why not (exit code 1).

    \b
    Example:
      verse-tray learn next our-blog
    """
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.screen import note
    from verse_tray.learning.session import Folder
    from verse_tray.tasks.learn import next_probe

    found = next_probe(folder)
    if isinstance(found, str):
        note(found)
        raise typer.Exit(ExitCode.FOUND)
    path = folder / f"probe-{found.number}.html"
    note(f"Wrote {path}: {len(found.text):,} characters, {len(found.questions)} cells.")
    _how(folder, found.number, visual=Folder.read(folder).session.visual)


@app.command("show")
def show(
    folder: Session,
    form: Annotated[Format, typer.Option("--format", help="Form of what is printed.")] = Format.TEXT,
    every: Annotated[bool, typer.Option("--every", help="Show every cell that is not explained.")] = False,
) -> None:
    """Tell what is known of the editor and by which cells, what is guessed, what is not known, and how far to trust it.

    \b
    Example:
      verse-tray learn show our-blog
    """
    from verse_tray.cli.screen import console, print_raw
    from verse_tray.cli.screen import show as show_all
    from verse_tray.reports.learn_text import learned_json, learned_text
    from verse_tray.tasks.learn import show

    session, evidence, telling = show(folder)
    if form is Format.JSON:
        print_raw(learned_json(session, evidence, telling) + "\n")
    else:
        show_all(console(), learned_text(session, evidence, telling, every=every))


@app.command("again")
def again(folder: Session) -> None:
    """Ask the same once more, later, and tell which rules changed since; the old profile stays beside it, dated.

    Run it once to write the probe, and once more when what came back is there. The exit code is 1 where rules changed.

    \b
    Example:
      verse-tray learn again our-blog
    """
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.screen import note, print_raw
    from verse_tray.learning.session import Folder
    from verse_tray.reports.learn_text import confidence_text, drift_text
    from verse_tray.tasks.learn_again import again

    found = again(folder)
    if found.probe is not None:
        note(f"What was known stands in {found.before} now.")
        note(f"Wrote {folder / 'probe-1.html'}: {len(found.probe.text):,} characters.")
        _how(folder, 1, visual=Folder.read(folder).session.visual)
        note(f"After that: verse-tray learn again {folder}")
        return
    for line in drift_text(str(found.before), found.differences):
        print_raw(line + "\n")
    if found.read is not None:
        print_raw(confidence_text(found.read.evidence) + "\n")
    if found.differences:
        raise typer.Exit(ExitCode.FOUND)
