"""``verse-tray make video`` and ``map``."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from verse_tray.cli.make.shared import CssOption, ForOption, NameOption, OutOption, StylesChoice, StylesOption

AddressArgument = Annotated[str, typer.Argument(metavar="ADDRESS", help="Address of what the frame shows.")]
TitleOption = Annotated[str, typer.Option("--title", help="What it shows; screen readers read it aloud.")]
WidthOption = Annotated[int, typer.Option("--width", min=50, help="Greatest width in pixels.")]
HeightOption = Annotated[int, typer.Option("--height", min=50, help="Height in pixels at that width.")]


def make_video(
    address: AddressArgument,
    title: TitleOption = "",
    width: WidthOption = 640,
    height: HeightOption = 360,
    styles: StylesOption = None,
    for_: ForOption = None,
    name: NameOption = None,
    css: CssOption = None,
    out: OutOption = None,
) -> None:
    """Make a framed video that keeps its proportion on every screen.

    \b
    Example:
      verse-tray make video https://video.example.org/embed/tides --title "Low water, from the slipway"
    """
    _make("video", address, title, width, height, styles, for_, name, css, out)


def make_map(
    address: AddressArgument,
    title: TitleOption = "",
    width: WidthOption = 640,
    height: HeightOption = 400,
    styles: StylesOption = None,
    for_: ForOption = None,
    name: NameOption = None,
    css: CssOption = None,
    out: OutOption = None,
) -> None:
    """Make a framed map that keeps its proportion on every screen.

    \b
    Example:
      verse-tray make map https://maps.example.org/slipway --title "Map of the slipway"
    """
    _make("map", address, title, width, height, styles, for_, name, css, out)


def _make(
    kind: str,
    address: str,
    title: str,
    width: int,
    height: int,
    styles: StylesChoice | None,
    for_: str | None,
    name: str | None,
    css: Path | None,
    out: Path | None,
) -> None:
    from verse_tray.cli.make.shared import chosen_styles, deliver
    from verse_tray.make.frames import make_frame

    chosen = chosen_styles(styles, for_, css)
    deliver(make_frame(kind, address, title, chosen, width=width, height=height, name=name), css, out)


COMMANDS = {"video": make_video, "map": make_map}
