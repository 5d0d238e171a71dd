"""Hold placements against pages with the piece as written: ``python bench/placing.py [FOLDER]``.

Each piece of a folder (the demo's and what trays begin with, when none is named) is placed in every region of the sites
that come with the program. Of the placements of which readers are said to get all, the assembled page is drawn in a
browser beside the page with the piece as written in its place: both with their scripts, before and after every button
is clicked, on a desktop and a phone. What no editor has changed has to look the same, pixel by pixel, if the piece has
no errors; of what was rewritten so that a person sees no difference, those that differ are told. The pastes are put
together again from the written files, which has to give the same page.
"""

from __future__ import annotations

import sys
import tempfile
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

import msgspec
import numpy as np
from playwright.sync_api import Page, sync_playwright

from verse_tray.checks.find import mistakes
from verse_tray.demo import example
from verse_tray.editors.load import PIECE_MARK
from verse_tray.editors.page import themed_frame
from verse_tray.join.paste import join
from verse_tray.model.decoding import Source
from verse_tray.model.findings import Severity
from verse_tray.piece.piece import Piece
from verse_tray.place.page import Paste, boxed, holders_of, predicted, published, region_editor
from verse_tray.place.placement import Placement, Wanted, place
from verse_tray.place.targets import Target
from verse_tray.preview.browser.find import find_browser
from verse_tray.sites.load import Where, known_sites, load_site
from verse_tray.tasks.new import KINDS
from verse_tray.tasks.place import write_placements

WIDTHS = (1280, 375)
STARTERS = Path(__file__).parent.parent / "src" / "verse_tray" / "trays" / "starters"


def main() -> int:
    """Place, print what was found, and return 1 where a promise is broken."""
    pieces = dict(_pieces(Path(sys.argv[1]) if len(sys.argv) > 1 else None))
    broken: list[str] = []
    shifted: list[str] = []
    count: Counter[str] = Counter()
    gained = 0.0
    with sync_playwright() as playwright, tempfile.TemporaryDirectory() as folder:
        browser = playwright.chromium.launch(executable_path=find_browser(), args=["--no-sandbox"])
        tab = browser.new_page()
        tab.route("**/*", lambda route: route.fulfill(body="", content_type="text/html"))  # nothing is fetched
        for where in _regions():
            for name, text in pieces.items():
                placement = place(where.site, [Wanted(Piece(Source(text, name)), where)])
                (placed,) = placement.placed
                count["placed"] += 1
                count[placed.outcome.way.name] += 1
                gained += placed.outcome.share - placed.written.share
                if placed.outcome.worth < placed.written.worth - 1e-9:
                    broken.append(f"worse than pasted whole: {name} in {where.name}")
                if not _same_from_files(placement, Path(folder) / str(count["placed"])):
                    broken.append(f"the written pastes give another page: {name} in {where.name}")
                if placed.outcome.is_perfect:
                    count["perfect"] += 1
                    editor = region_editor(where, placed.index)
                    reference = themed_frame(editor, where.site.theme).replace(PIECE_MARK, boxed(editor, text))
                    differs = _differs(tab, reference, placement.page(where.page))
                    line = f"looks otherwise ({differs}): {name} in {where.name}"
                    faulty = any(each.severity is Severity.ERROR for each in mistakes(placed.piece))
                    if differs and not faulty and not placed.used and _kept_as_written(placement):
                        broken.append(line)
                    elif differs:
                        shifted.append(line)
        browser.close()
    print(f"{dict(count)}, {gained:.2f} gained in all")
    print("\n".join([f"{len(shifted)} rewritten ones differ by some pixels", *shifted]))
    print("\n".join([f"{len(broken)} promises broken", *broken]))
    return bool(broken)


def _pieces(folder: Path | None) -> Iterator[tuple[str, str]]:
    if folder is not None:
        yield from ((path.name, path.read_text("utf-8")) for path in sorted(folder.glob("*.html")))
        return
    yield from ((path.name, data.decode()) for path, data in example().items() if path.suffix == ".html")
    for kind, record in KINDS.items():
        if isinstance(parts := record.get("parts"), list):
            sources = [Source((STARTERS / kind / part).read_text("utf-8"), part) for part in parts]
            yield f"{kind}.html", join(sources, []).fragment()


def _regions() -> Iterator[Where]:
    for name in known_sites():
        site = load_site(name)
        for page, described in site.site.pages.items():
            yield from (Where(site, page, region) for region in described.regions)


def _kept_as_written(placement: Placement) -> bool:
    """Tell whether nothing that is pasted is changed on its way."""
    holders = holders_of(placement.site, placement.pastes)
    kept = (
        published(placement.site, each, holders) == each.text for each in placement.pastes if each.kind != "reference"
    )
    return all(kept)


def _same_from_files(placement: Placement, folder: Path) -> bool:
    """Tell whether the pastes, read back from their files, give the page that was written."""
    list(write_placements([placement], folder))
    record = msgspec.json.decode((folder / "placement.json").read_bytes())
    pastes = []
    for each in record["placements"][0]["pastes"]:
        target = Target(each["target"]["kind"], each["target"]["name"], each["target"]["page"] or "",
                        each["target"]["region"] or "")  # fmt: skip
        text = (folder / each["file"]).read_bytes().decode()
        pastes.append(Paste(text, each["kind"], target, tuple(each["pieces"]), (each["place"] or 0) - 1))
    page = placement.pages[0]
    return predicted(placement.site, page, pastes).encode() == (folder / "page.html").read_bytes()


def _differs(tab: Page, one: str, other: str) -> str:
    """Return in what two pages look otherwise; empty where they do not."""
    for width in WIDTHS:
        tab.set_viewport_size({"width": width, "height": 800})
        pictures = [list(_pictures(tab, each)) for each in (one, other)]
        if len(pictures[0]) != len(pictures[1]):
            return f"{len(pictures[0])} buttons, and not {len(pictures[1])}"
        for number, (before, after) in enumerate(zip(*pictures, strict=True)):
            first, second = _pixels(before), _pixels(after)
            if first.shape != second.shape or not np.array_equal(first, second):
                state = f"after {number} clicks" if number else "at first"
                return f"{width} pixels, {state}"
    return ""


def _pixels(png: bytes) -> np.ndarray:
    from io import BytesIO

    from PIL import Image

    return np.asarray(Image.open(BytesIO(png)).convert("RGB"))


def _pictures(tab: Page, html: str) -> Iterator[bytes]:
    tab.goto("about:blank")  # what one page has declared is not to be there in the next
    tab.set_content(html, wait_until="load")
    yield tab.screenshot(full_page=True, animations="disabled")
    for button in tab.locator("button:visible:not(form button)").all():
        button.click(timeout=2000, force=True)
        tab.mouse.move(0, 0)
        yield tab.screenshot(full_page=True, animations="disabled")


if __name__ == "__main__":
    sys.exit(main())
