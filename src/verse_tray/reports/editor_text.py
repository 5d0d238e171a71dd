"""An editor in plain sentences."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import structs
from rich.console import RenderableType
from rich.padding import Padding
from rich.table import Table
from rich.text import Text

from verse_tray.checks.styles.site_class import theme_classes
from verse_tray.editors.filters import Filter
from verse_tray.editors.load import Editor
from verse_tray.editors.profile import Limit, Profile, Publish, Save
from verse_tray.editors.themes import themes
from verse_tray.journeys.limits.use import UNIT_NAMES
from verse_tray.journeys.steps import FILTER, FINISHING, OPENING, PANE
from verse_tray.model.phrasing import listed
from verse_tray.reports.step_sentences import sentences


def editor_text(editor: Editor) -> Iterator[RenderableType]:
    """Yield what to print about an editor."""
    profile = editor.profile
    yield Text.assemble((editor.name, "bold"), f"  {profile.title}")
    yield Text(f"{profile.summary}\n")
    for heading, rows in [*_stages(profile), *_site(editor)]:
        yield Text(heading, "bold")
        table = Table(box=None, show_header=False, padding=(0, 2, 0, 0), pad_edge=False)
        table.add_column(no_wrap=True, min_width=14)
        table.add_column(overflow="fold")
        for about, sentence in rows:
            table.add_row(about, sentence)
        yield Padding(table, (0, 0, 1, 2), expand=False)
    if profile.variants:
        yield Text("Settings and roles", "bold")
        table = Table(box=None, show_header=False, padding=(0, 2, 0, 2))
        table.add_column(no_wrap=True)
        table.add_column(overflow="fold")
        for name, own in profile.variants.items():
            table.add_row(f"{editor.name}:{name}", str(own.get("summary", own.get("title", ""))))
        yield table
        yield Text("")


def _site(editor: Editor) -> Iterator[tuple[str, list[tuple[str, str]]]]:
    names = list(themes(editor))
    rows = [("themes", f"{', '.join(names)}; the usual one is {names[0]}.")] if len(names) > 1 else []
    classes = theme_classes(editor.theme)
    if classes and editor.profile.box is None:
        rows.append(("classes", f"Its style sheet knows {', '.join(classes)}."))
    if rows:
        yield "The site around it", rows


def _stages(profile: Profile) -> Iterator[tuple[str, list[tuple[str, str]]]]:
    paste = profile.paste
    done = [each for steps in (OPENING, FILTER, FINISHING) for each in sentences(paste, steps)]
    yield "When you paste", [*sentences(paste, PANE), *_regions(profile), *done]
    save = profile.save
    anew = _WRITES[save.writes] + _references(save) + _cleans(save)
    nothing_goes = (
        []
        if save != structs.replace(Save(), **{key: getattr(save, key) for key in _WRITING})
        else [("elements", "Nothing goes and nothing changes.")]
    )
    did = [*sentences(save, OPENING), *sentences(save, FILTER), *sentences(save, FINISHING)]
    yield "When you save", [*did, *nothing_goes, ("writing", anew), *_limits(profile)]
    if (reopen := profile.reopen) is not None:
        anew = _WRITES[reopen.writes] + _references(reopen)
        yield (
            "When it is opened in the visual pane and saved again",
            [*sentences(reopen, OPENING), ("writing", anew), *sentences(reopen, FILTER), *sentences(reopen, FINISHING)],
        )
    publish = profile.publish
    wrote = (_WRITES[publish.writes] if publish.writes != "as-typed" else "") + _references(publish) + _cleans(publish)
    cleaned = [("writing", wrote.strip())] if wrote else []
    opened = sentences(publish, OPENING)
    told = [*_asked(publish), *opened, *sentences(publish, FINISHING), *sentences(publish, FILTER), *cleaned]
    told += _page(profile)
    yield "When it is published", told
    yield "What you see in the editor", [*_view(profile)]


def _asked(record: Publish) -> Iterator[tuple[str, str]]:
    if record.asked:
        yield "publishing", "Has to be asked for: what is saved is not yet what readers get."


def _cleans(record: Filter) -> str:
    if record.cleans == "once":
        return ""
    return " What was written is read back and cleaned again until no code is left that is forbidden."


_WRITES = {
    "as-typed": "What stays, stays as typed.",
    "tags-anew": "Tags are written anew one by one, text stays as typed.",
    "tokens-anew": "Tags and text are written anew one by one; no missing end tag is added.",
    "anew": "Everything is written anew, as browsers do.",
}
_WRITING = ("writes", "cleans", "references", "void_tags", "text_signs", "value_signs", "attribute_order")
"""Keys that tell how it is written, which no reader sees."""


def _references(record: Filter) -> str:
    told = "" if record.references == "plain" else f" Signs beyond ASCII become {record.references} references."
    for where, signs in (("In text", record.text_signs), ("In values", record.value_signs)):
        if signs:
            told += f" {where} {listed([f'{sign} is written {ref}' for sign, ref in signs.items()], 9)}."
    if record.void_tags != "plain":
        told += f" Line breaks are written {'<br />' if record.void_tags == 'slash' else '<br/>'}."
    return (
        told
        + {
            "typed": "",
            "sorted": " Attributes stand in order of their names.",
            "listed": " Attributes stand in the order of that list.",
        }[record.attribute_order]
    )


def _regions(profile: Profile) -> Iterator[tuple[str, str]]:
    if len(profile.regions) > 1:
        yield "regions", f"One each for {', '.join(profile.regions)}; paste into each."


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


def _page(profile: Profile) -> Iterator[tuple[str, str]]:
    if (box := profile.box) is not None:
        allows = ", ".join(box.sandbox) or "nothing"
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
