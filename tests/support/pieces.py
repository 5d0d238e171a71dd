"""One piece of each kind that ``make`` makes, with its forms."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from verse_tray.make import blocks, code, frames, pictures, table
from verse_tray.make.blocks import Card, SignOff
from verse_tray.make.builder import Made
from verse_tray.make.pictures import Picture, Place
from verse_tray.make.survive import Form
from verse_tray.make.terms import Terms

Build = Callable[[str, Terms], Made]
ROWS = [["Day", "Height", "Time"], ["Saturday", "0.4 m", "06:12"], ["Sunday", "0.5 m", "06:58"]]
LIMPET = Picture(
    "https://pictures.gannetcove.example/limpet.png", "A limpet", 400, 300, "Shut", "https://gannetcove.example"
)
CRAB = Picture("https://pictures.gannetcove.example/crab.png", "A crab", 400, 300)
VIDEO = frames.Frame("https://video.example.org/1", "Tides")
BOOK = "https://gannetcove.example/?a=1&b"
CARDS = [Card("Boots", "Wear them.", "🥾"), Card("Lamp", link="https://gannetcove.example/lamps")]
MAREN = SignOff("Maren", "Counts", CRAB.address, ("a@b.example", "+44 12345 678", "Mon–Fri 9–5"))
LOOK = table.TableLook(stripes=True, row_headers=True, widths="equal", caption="Tides")

PIECES: dict[str, tuple[Sequence[Form], Build]] = {
    "button": (
        blocks.BUTTON_FORMS,
        lambda form, to: blocks.make_button("Book", BOOK, to, colour="#a14a12", new_window=True, form=form),
    ),
    "cards": (blocks.CARD_FORMS, lambda form, to: blocks.make_cards(CARDS, to, colour="teal", level=3, form=form)),
    "list": (
        blocks.LIST_FORMS,
        lambda form, to: blocks.make_list(["a", "b & c"], to, space="8px", numbered=True, form=form),
    ),
    "sign-off": (
        blocks.SIGN_OFF_FORMS,
        lambda form, to: blocks.make_signoff(MAREN, colour="#1f6f73", styles=to, form=form),
    ),
    "table": (table.FORMS, lambda form, to: table.make_table(ROWS, LOOK, to, form=form)),
    "picture-right": (
        pictures.forms_of_picture("right"),
        lambda form, to: pictures.make_picture(LIMPET, to, align=Place.RIGHT, new_window=True, form=form),
    ),
    "picture-centre": (
        pictures.forms_of_picture("centre"),
        lambda form, to: pictures.make_picture(CRAB, to, align=Place.CENTRE, new_window=False, form=form),
    ),
    "picture": (
        pictures.forms_of_picture("none"),
        lambda form, to: pictures.make_picture(LIMPET, to, align=Place.NONE, new_window=False, form=form),
    ),
    "slider": (
        pictures.SLIDER_FORMS,
        lambda form, to: pictures.make_slider([LIMPET, CRAB], to, label="Pools", width=400, height=300, form=form),
    ),
    "swap": (pictures.SWAP_FORMS, lambda form, to: pictures.make_swap(LIMPET, CRAB, to, form=form)),
    "video": (frames.FORMS, lambda form, to: frames.make_frame("video", VIDEO, to, form=form)),
    "code": (code.FORMS, lambda form, to: code.make_code("<p>a</p>\n  <b>\n", to, language="html", form=form)),
}
