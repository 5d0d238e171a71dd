"""An editor in plain sentences."""

from __future__ import annotations

from collections.abc import Iterator

from rich.console import RenderableType
from rich.padding import Padding
from rich.table import Table
from rich.text import Text

from verse_tray.checks.styles.site_class import theme_classes
from verse_tray.editors.load import Editor
from verse_tray.editors.profile import Limit, Paste, Profile, Publish, Reopen, Save
from verse_tray.editors.themes import themes
from verse_tray.journeys.limits.text_limits import UNIT_NAMES
from verse_tray.reports.filter_sentences import listed, sentences


def editor_text(editor: Editor) -> Iterator[RenderableType]:
    """Yield what to print about an editor."""
    profile = editor.profile
    yield Text.assemble((editor.name, "bold"), f"  {profile.title}")
    yield Text(f"{profile.summary}\n")
    for heading, rows in [*_stages(profile), *_site(editor)]:
        yield Text(heading, "bold")
        table = Table(box=None, show_header=False, padding=(0, 2, 0, 0), pad_edge=False)
        table.add_column(no_wrap=True, min_width=14)
        table.add_column()
        for about, sentence in rows:
            table.add_row(about, sentence)
        yield Padding(table, (0, 0, 1, 2), expand=False)
    if profile.variants:
        yield Text("Settings and roles", "bold")
        table = Table(box=None, show_header=False, padding=(0, 2, 0, 2))
        table.add_column(no_wrap=True)
        table.add_column()
        for name, own in profile.variants.items():
            table.add_row(f"{editor.name}:{name}", str(own.get("summary", own.get("title", ""))))
        yield table
        yield Text("")


def _site(editor: Editor) -> Iterator[tuple[str, list[tuple[str, str]]]]:
    names = list(themes(editor))
    rows = [("themes", f"{listed(names)}; the usual one is {names[0]}.")] if len(names) > 1 else []
    classes = theme_classes(editor.theme)
    if classes and editor.profile.box is None:
        rows.append(("classes", f"Its style sheet knows {listed(classes)}."))
    if rows:
        yield "The site around it", rows


def _stages(profile: Profile) -> Iterator[tuple[str, list[tuple[str, str]]]]:
    yield "When you paste", [*_paste(profile), *sentences(profile.paste)]
    save = profile.save
    anew = "Everything is written anew, as browsers do." if save.writes == "anew" else "What stays, stays as typed."
    anew += _references(save)
    nothing_goes = [] if save != Save(writes=save.writes) else [("elements", "Nothing goes and nothing changes.")]
    yield "When you save", [*sentences(save), *nothing_goes, ("writing", anew), *_limits(profile)]
    if profile.reopen is not None:
        yield (
            "When it is opened in the visual pane and saved again",
            [*_reopen(profile.reopen), *sentences(profile.reopen)],
        )
    yield "When it is published", [*_publish(profile.publish), *sentences(profile.publish), *_page(profile)]
    yield "What you see in the editor", [*_view(profile)]


def _references(record: Save | Reopen) -> str:
    return "" if record.references == "plain" else f" Signs beyond ASCII become {record.references} references."


def _paste(profile: Profile) -> Iterator[tuple[str, str]]:
    paste: Paste = profile.paste
    told = {
        "source": "Into the source pane, which takes the markup as it is.",
        "visual-text": f"Into the visual pane, as plain text: tags show, lines become {paste.lines}.",
        "visual-rich": "Into the visual pane, as rich text: what a browser's own editing surface keeps.",
    }
    yield "pane", told[paste.pane]
    if len(profile.regions) > 1:
        yield "regions", f"One each for {listed(profile.regions)}; paste into each."


def _limits(profile: Profile) -> Iterator[tuple[str, str]]:
    for number, limit in enumerate(profile.limits):
        yield "" if number else "limits", _limit(limit)


def _limit(limit: Limit) -> str:
    over = {
        "refuse": "more is refused",
        "cut": "the rest is cut off",
        "drop": "what is too much goes",
        "warn": "more only brings a warning",
    }[limit.over]
    each = {"piece": "", "attribute": " in each attribute", "inline-picture": " in each inline picture"}[limit.of]
    already = f" (the rest of the page uses {limit.already:,})" if limit.already else ""
    return f"{limit.most:,} {UNIT_NAMES[limit.unit]}{each} {limit.measure}{already}; {over}."


def _reopen(record: Reopen) -> Iterator[tuple[str, str]]:
    told = (
        (record.paragraphs, "text", "Blank lines outside blocks become paragraphs, single line ends line breaks."),
        (record.white_space == "fold", "white space", "Folded into single spaces."),
        (record.non_breaking_spaces == "plain", "spaces", "Non-breaking spaces become plain ones."),
        (record.quotes == "straight", "quotes", "Curly quotes become straight ones."),
        (bool(record.merge_elements), "neighbours", f"Two alike become one: {listed(record.merge_elements)}."),
        (record.nesting == "repair", "nesting", "Text-level elements move inside blocks; stray list items get a list."),
        (bool(record.remove_empty_elements), "empty ones", f"Gone when empty: {listed(record.remove_empty_elements)}."),
        (record.trailing_breaks == "drop", "line breaks", "Those at the end of blocks go."),
    )
    for holds, about, sentence in told:
        if holds:
            yield about, sentence
    yield "writing", "Everything is written anew, as browsers do." + _references(record)


def _publish(record: Publish) -> Iterator[tuple[str, str]]:
    if record.asked:
        yield "publishing", "Has to be asked for: what is saved is not yet what readers get."
    if (fill := record.fill) is not None:
        mark = f"{fill.opening}name{fill.closing}"
        unknown = {"leave": "stay as they are", "blank": "are left out", "error": "keep the page from being built"}
        known = listed([*fill.values, *(f"{name} (a holder of code)" for name in fill.holders)])
        yield "marks", f"{mark} is filled in. Known: {known or 'none'}. Others {unknown[fill.unknown]}."
    if (films := record.players) is not None:
        forms = " or ".join(form.replace("{id}", "…") for form in (films.long, films.short) if form)
        alone = f", unless &amp;{films.leave_alone} stands behind its long form" if films.leave_alone else ""
        yield "films", f"A link to {forms} becomes a player{alone}."
    if record.address_links:
        yield "addresses", "Those that stand in text become links."
    if record.typography == "curly":
        code = "in code too" if record.typography_in_code else "but not in code"
        yield "signs", f"Straight quotes become curly and hyphens dashes, {code}."
    gets = [f"rel “{' '.join(record.link_rel)}”"] if record.link_rel else []
    gets += [f"target “{record.link_target}”"] if record.link_target is not None else []
    if gets:
        but = f", but those to {listed(record.own_hosts)}" if record.own_hosts else ""
        yield "links", f"They get {' and '.join(gets)}{but}."


def _page(profile: Profile) -> Iterator[tuple[str, str]]:
    if (box := profile.box) is not None:
        allows = listed(box.sandbox) or "nothing"
        yield "box", f"The piece stands in a frame of {box.width} × {box.height} pixels that allows {allows}."
    elif profile.publish == Publish():
        yield "page", "The stored markup goes into the page as it is."


def _view(profile: Profile) -> Iterator[tuple[str, str]]:
    view = profile.view
    yield (
        "piece",
        {
            "piece": "The piece itself.",
            "notice": f"A notice in its place{f': “{view.notice}”' if view.notice else ''}.",
            "stand-ins": "The piece, with grey boxes for frames, scripts and media.",
        }[view.shows],
    )
    if view.shows != "notice":
        yield "scripts", "They run." if view.scripts == "run" else "They do not run there."
