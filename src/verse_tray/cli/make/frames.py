"""``verse-tray make video`` and ``map``."""

from typing import TYPE_CHECKING, Annotated, NamedTuple

import typer

from verse_tray.cli.make.shared import CssOption, ForOption, LanguageOption, NameOption, OutOption, StylesOption, Wanted

if TYPE_CHECKING:
    from verse_tray.make.builder import Made
    from verse_tray.make.terms import Terms

AddressArgument = Annotated[
    str, typer.Argument(metavar="ADDRESS", help="Address of what the frame shows, or the embed code with it.")
]
TitleOption = Annotated[str, typer.Option("--title", help="What it shows; screen readers read it aloud.")]
WidthOption = Annotated[int | None, typer.Option("--width", min=50, help="Greatest width in pixels. Left out: 640.")]
HeightOption = Annotated[int | None, typer.Option("--height", min=50, help="Height in pixels at that width.")]
PictureOption = Annotated[
    str, typer.Option("--picture", metavar="ADDRESS", help="Picture for a link to it, where no frame survives.")
]


def make_video(
    address: AddressArgument,
    title: TitleOption = "",
    width: WidthOption = None,
    height: HeightOption = None,
    picture: PictureOption = "",
    language: LanguageOption = "en",
    styles: StylesOption = None,
    for_: ForOption = None,
    name: NameOption = None,
    css: CssOption = None,
    out: OutOption = None,
) -> None:
    """Make a framed video that keeps its proportion on every screen; where no frame survives, a link to it.

    \b
    Examples:
      verse-tray make video https://video.example.org/embed/tides --title "Low water, from the slipway"
      verse-tray make video '<iframe src="https://video.example.org/embed/tides"></iframe>' --title "Low water"
    """
    _make("video", _Given(address, title, width, height, picture), language, Wanted(styles, for_, css, out), name)


def make_map(
    address: AddressArgument,
    title: TitleOption = "",
    width: WidthOption = None,
    height: HeightOption = None,
    picture: PictureOption = "",
    language: LanguageOption = "en",
    styles: StylesOption = None,
    for_: ForOption = None,
    name: NameOption = None,
    css: CssOption = None,
    out: OutOption = None,
) -> None:
    """Make a framed map that keeps its proportion on every screen; where no frame survives, a link to it.

    \b
    Example:
      verse-tray make map https://maps.example.org/slipway --title "Map of the slipway"
    """
    _make("map", _Given(address, title, width, height, picture), language, Wanted(styles, for_, css, out), name)


class _Given(NamedTuple):
    address: str
    title: str
    width: int | None
    height: int | None
    picture: str


def _make(kind: str, given: _Given, language: str, wanted: Wanted, name: str | None) -> None:
    from verse_tray.cli.make.shared import make
    from verse_tray.make import frames
    from verse_tray.make.words import words_of

    code = frames.embedded(given.address, kind)
    width = given.width or (code.width if code is not None and code.width else 640)
    usual = 400 if kind == "map" else round(width * 9 / 16)
    height = given.height or (code.height if code is not None and code.height and not given.width else usual)
    address, title = (given.address, "") if code is None else (code.address, code.title)
    frame = frames.Frame(address, given.title or title, width, height, given.picture)
    words = words_of(language)

    def build(form: str, terms: "Terms") -> "Made":
        return frames.make_frame(kind, frame, terms, form=form, words=words, name=name)

    make(frames.FORMS, build, wanted)


COMMANDS = {"video": make_video, "map": make_map}
