"""``verse-tray place``."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from verse_tray.cli.options import Format, Threshold, only_options

if TYPE_CHECKING:
    from verse_tray.place.in_templates import Landmarks
    from verse_tray.place.placement import Placement
    from verse_tray.place.template import How


def command(
    context: typer.Context,
    files: Annotated[
        list[str] | None, typer.Argument(metavar="FILE...", help="The pieces, in order; - is standard input.")
    ] = None,
    on: Annotated[
        list[str] | None,
        typer.Option("--on", metavar="SITE:PAGE", help="Page of a site (name, folder or TOML file); may be repeated."),
    ] = None,
    region: Annotated[
        list[str] | None,
        typer.Option("--region", metavar="NAME", help="Region of the page; may be repeated. Left out: the only one."),
    ] = None,
    position: Annotated[
        str,
        typer.Option(
            "--position",
            metavar="PLACE",
            help="A number, before ITEM or after ITEM, among what stands there. Left out: behind everything.",
        ),
    ] = "",
    as_given: Annotated[
        bool,
        typer.Option("--as-given", help="The pieces are code from elsewhere: paste them as they are, rewrite nothing."),
    ] = False,
    template: Annotated[
        list[str] | None,
        typer.Option("--in", metavar="TEMPLATE", help="Put it into a template, in place of a site; may be repeated."),
    ] = None,
    before: Annotated[
        list[str] | None,
        typer.Option(
            "--before",
            metavar="LANDMARK",
            help="With --in: before this text, <element>, .class or #identifier, which is there once; may be repeated.",
        ),
    ] = None,
    after: Annotated[
        list[str] | None,
        typer.Option("--after", metavar="LANDMARK", help="With --in: behind it, or behind all that it opens."),
    ] = None,
    instead_of: Annotated[
        list[str] | None,
        typer.Option("--instead-of", metavar="LANDMARK", help="With --in: in place of it and all that it opens."),
    ] = None,
    write: Annotated[
        bool,
        typer.Option("--write", help="With --in: show the difference and write the template, a backup beside it."),
    ] = False,
    editor: Annotated[
        str | None, typer.Option("--editor", metavar="NAME", help="With --in: fit the piece to this editor beforehand.")
    ] = None,
    done: Annotated[
        list[str] | None,
        typer.Option("--done", metavar="NUMBER", help="In a tray: a paste that was pasted, or all; may be repeated."),
    ] = None,
    standing: Annotated[
        bool, typer.Option("--standing", help="In a tray: tell which version of what stands where.")
    ] = False,
    copy: Annotated[
        int | None,
        typer.Option("--copy", metavar="NUMBER", min=1, help="Put the text of one paste on the clipboard."),
    ] = None,
    format: Annotated[
        Format, typer.Option("--format", help="What goes where, or the same with the texts as JSON.")
    ] = Format.TEXT,
    fail_on: Annotated[
        Threshold, typer.Option("--fail-on", help="Worst of what readers get that exits with 1.")
    ] = Threshold.DAMAGED,
    out: Annotated[
        Path | None,
        typer.Option("-o", "--out", metavar="FOLDER", help="Where it goes. Left out: NAME.placed beside the piece."),
    ] = None,
) -> None:
    """Say which part of a piece goes where on a site, in which order, and write what there is to paste.

    A piece that a field would not keep whole is taken apart: styles and scripts go into the slots that the site has
    for them, code into holders, the rest is fitted. The folder gets the pastes, numbered, a paste sheet to work through
    (HTML and Markdown) and the page as it will be. Without a file, the tray in this folder is placed, as far as it has
    changed since.

    \b
    Examples:
      verse-tray place low-water-walk.html --on field-shop:guide --region description
      verse-tray place banner.html --on field-blog:post --region sidebar --position 2
      verse-tray place walk.html banner.html --on survey-site:reports -o pasting
      verse-tray place --copy 2 -o pasting
      verse-tray place --done 1 --done 2
      verse-tray place header.html --in theme.html --after '<!-- landmark: desktop -->' --write
    """
    if not files and copy is None and not (template or before or after or instead_of):
        _tray(context, done, on, fail_on, standing=standing)
        return
    if done or standing:
        raise typer.BadParameter("is for a tray: leave the files out", param_hint="--done" if done else "--standing")
    if copy is not None and not files:
        if out is None:
            raise typer.BadParameter("names a paste of a folder: give it with -o", param_hint="--copy")
        only_options(context, "is for a file, and none is named", "copy", "out")
        _copy(out, copy)
        return
    if not files:
        raise typer.BadParameter("give at least one file of HTML, or - for standard input", param_hint="FILE...")
    ways: dict[How, list[str] | None] = {"before": before, "after": after, "instead-of": instead_of}
    landmarks = [(how, each) for how, given in ways.items() for each in given or ()]
    if template:
        allowed = ("template", "before", "after", "instead_of", "write", "editor", "out", "fail_on")
        only_options(context, "goes without --in: a template is no site", *allowed)
        _in_templates(files, template, landmarks, editor, out, write=write, fails=fail_on is not Threshold.NEVER)
        return
    given = [f"--{how}" for how, _ in landmarks] + ["--write"] * write + ["--editor"] * bool(editor)
    if given:
        raise typer.BadParameter("goes with --in TEMPLATE", param_hint=given[0])
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.screen import print_raw
    from verse_tray.model.errors import InputError
    from verse_tray.model.findings import Severity, Verdict
    from verse_tray.place.placement import worst
    from verse_tray.reports.placement_text import as_json, placement_record
    from verse_tray.tasks.place import PlaceRequest, place_pieces

    if not on:
        raise InputError("name the page with --on SITE:PAGE. verse-tray sites lists those that come with it.")
    request = PlaceRequest(tuple(files), tuple(on), tuple(region or ()), position, as_given)
    placements = place_pieces(request)
    if format is Format.JSON:
        from verse_tray.place.steps import steps_of

        print_raw(as_json(placement_record([(each, steps_of(each)) for each in placements])))
    if format is Format.TEXT or out is not None:
        _write(placements, files, out, told=format is Format.TEXT)
    if copy is not None:
        from verse_tray.tasks.place import folder_for

        _copy(out or folder_for(files), copy)
    grave = {worst(each.findings) for each in placements} & {Severity.ERROR, Severity.WARNING}
    reached = fail_on is not Threshold.NEVER and any(
        each.verdict.rank >= Verdict(fail_on.value).rank for each in placements
    )
    if fail_on is not Threshold.NEVER and (reached or grave):
        raise typer.Exit(ExitCode.FOUND)


def _tray(
    context: typer.Context, done: list[str] | None, on: list[str] | None, fail_on: Threshold, *, standing: bool
) -> None:
    """Place the tray of this folder, tick off what was pasted, or tell what stands where."""
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.tray import place_tray, show_standing, tick_off, tray_asked
    from verse_tray.model.findings import Verdict

    tray_asked(context, *(("done", "on") if done else ("standing",) if standing else ("fail_on",)))
    if done:
        if on and len(on) > 1:
            raise typer.BadParameter("names one site here", param_hint="--on")
        tick_off(done, on[0] if on else None)
    elif standing:
        show_standing()
    elif place_tray(None if fail_on is Threshold.NEVER else Verdict(fail_on.value)):
        raise typer.Exit(ExitCode.FOUND)


def _write(placements: "list[Placement]", files: list[str], out: Path | None, *, told: bool) -> None:
    """Write what there is to paste, and say what goes where."""
    from verse_tray.cli.screen import console, hanging, note, show
    from verse_tray.reports.placement_text import placement_lines
    from verse_tray.tasks.place import folder_for, write_placements

    screen = console()
    for placement, steps, folder in write_placements(placements, out or folder_for(files)):
        if told:
            show(screen, [hanging(line, screen.width) for line in placement_lines(placement, steps, folder)])
        sheet = folder / "paste-sheet.html"
        note(f"Open {sheet} in a browser and work through it; page.html beside it is the page as it will be.")


def _copy(folder: Path, number: int) -> None:
    from verse_tray.cli.screen import note
    from verse_tray.tasks.clipboard import copy_text
    from verse_tray.tasks.place import text_of

    text = text_of(folder, number)
    copy_text(text)
    note(f"Paste {number} is on the clipboard: {len(text):,} characters.")


def _in_templates(
    files: list[str],
    templates: list[str],
    landmarks: "Landmarks",
    editor: str | None,
    out: Path | None,
    *,
    write: bool,
    fails: bool,
) -> None:
    """Put a piece into templates: print the one, or show the difference and write them."""
    from verse_tray.cli.exits import ExitCode
    from verse_tray.cli.screen import console, note, show, write_result
    from verse_tray.place.in_templates import grave
    from verse_tray.reports.template_text import difference, finding_line
    from verse_tray.tasks.template import TemplateRequest, place_in_templates, write_templates

    if len(files) != 1:
        raise typer.BadParameter("goes with one piece; join puts several into one", param_hint="--in")
    if not landmarks:
        raise typer.BadParameter("needs --before, --after or --instead-of", param_hint="--in")
    if len(templates) > 1 and not write:
        raise typer.BadParameter("several templates are not printed: add --write", param_hint="--in")
    if write and out is not None:
        raise typer.BadParameter("writes the template itself: leave -o out", param_hint="--write")
    made = place_in_templates(TemplateRequest(files[0], tuple(templates), tuple(landmarks), editor))
    for each in made:
        for told in each.notes:
            note(told)
        for finding in each.findings:
            note(finding_line(each, finding, files[0]))
    if not write:
        write_result(made[0].data, out)
    else:
        for each in made:
            show(console(), difference(each))
        for each, kept in write_templates(made):
            note(f"Wrote {each.source.name}; as it was, it is kept in {kept}.")
        for each in made:
            if not each.changes:
                note(f"{each.source.name}: it stands there already as it is; nothing was written.")
    if fails and grave(made):
        raise typer.Exit(ExitCode.FOUND)
