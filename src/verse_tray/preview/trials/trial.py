"""Trying a piece out."""

from __future__ import annotations

import re
import time
from collections.abc import Iterator, Sequence
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING, Any

from verse_tray.journeys.journey import Journey
from verse_tray.model.errors import InputError
from verse_tray.model.findings import Finding, Severity
from verse_tray.model.patterns import lazy
from verse_tray.preview.browser.flags import MOST_MEMORY
from verse_tray.preview.browser.rest import HOLD
from verse_tray.preview.browser.session import ADDRESS, Session
from verse_tray.preview.browser.stuck import CrashedError, OverdueError, StuckError
from verse_tray.preview.browser.viewport import Box
from verse_tray.preview.pages.described import place_of, text_of
from verse_tray.preview.pages.local_pictures import LocalPictures
from verse_tray.preview.pages.offline import picture_box
from verse_tray.preview.pages.page import NUMBER
from verse_tray.preview.trials.changes import State, changes, described, differing, shortened
from verse_tray.preview.trials.links import dead_links, links_of
from verse_tray.preview.trials.messages import Notes, Said
from verse_tray.preview.trials.pointing import pointed_at
from verse_tray.preview.trials.result import Acted, Control, Look
from verse_tray.preview.trials.scripts import absent_libraries, faulty_script, without_scripts
from verse_tray.preview.trials.sentences import RULES, happened, missing_name, sentence
from verse_tray.preview.trials.trial_page import ActingPage

if TYPE_CHECKING:
    from playwright.sync_api import ElementHandle, Frame

FOUND = (
    "button, summary, select, [onclick], [role=button], [role=tab], input[type=checkbox], input[type=radio], "
    "input[type=button], input[type=submit], input[type=image], label[for], a[href^='#'], a[href^='javascript:' i]"
)
"""Selectors of what is clicked when the author names nothing."""
LONGEST_TRIAL = 20
"""Seconds after which a trial is ended, whatever it is at, if nobody says otherwise."""
_MOST = 24  # controls
_MOST_LOOKS = 12
_REST = 1.5  # seconds that a page may take to come to rest
_SETTLED, _STEP, _WATCHED = 1500, 1000, 10_000  # milliseconds of a page's own time: until it is at rest, for each click
_PATIENCE = 5000  # milliseconds
_HANDLER = lazy(r"\bHTML\w*Element\.on\w+ \(")
_COVERED = """element => {
  const box = Element.prototype.getBoundingClientRect.call(element), holds = Node.prototype.contains;
  const top = Document.prototype.elementFromPoint.call(document, box.x + box.width / 2, box.y + box.height / 2);
  const label = top && Element.prototype.closest.call(top, 'label');
  return Boolean(top) && !holds.call(element, top) && !holds.call(top, element) && label?.control !== element;
}"""
_CHOOSE_NEXT = """element => {
  element.selectedIndex = (element.selectedIndex + 1) % Math.max(1, element.options.length);
  for (const name of ['input', 'change']) element.dispatchEvent(new Event(name, { bubbles: true }));
}"""
_NUMBERS = f"""selector => [...Document.prototype.querySelectorAll.call(document, selector)]
  .map(each => Element.prototype.getAttribute.call(each, '{NUMBER}')).filter(number => number > 0)"""
_VISIBLE = """element => Element.prototype.checkVisibility.call(element, {visibilityProperty: true})
  && Element.prototype.getClientRects.call(element).length > 0"""
_INTO_SIGHT = "element => Element.prototype.scrollIntoView.call(element, {block: 'center', behavior: 'instant'})"
_NAME = "element => Object.getOwnPropertyDescriptor(Element.prototype, 'localName').get.call(element)"
_FOCUS = "element => HTMLElement.prototype.focus.call(element, {focusVisible: true})"
_BLUR = "element => HTMLElement.prototype.blur.call(element)"
_MARGIN = 8  # pixels around a control in its picture


def act(
    session: Session,
    journey: Journey,
    theme: str,
    pictures: LocalPictures,
    *,
    clicked: Sequence[str] = (),
    width: int = 1280,
    libraries: Path | None = None,
    longest: float | None = None,
) -> Acted:
    """Run the scripts of the published piece, follow nothing, click what can be clicked, and tell what came of it.

    Args:
        session: A browser of its own: listeners stay on it.
        journey: The journey.
        theme: The site's theme, CSS.
        pictures: Where the piece's own pictures are.
        clicked: Selectors of what to click, in this order and on one page; none for all controls that are found, each
            on a page of its own.
        width: Width of the window in CSS pixels.
        libraries: Folder with copies of the libraries that the piece loads, found by their file names.
        longest: Seconds after which it is ended, whatever it is at; None for :data:`LONGEST_TRIAL`.

    Raises:
        BrowserError: the browser failed.
        InputError: a selector that matches nothing, or is none.
    """
    session.scripts = libraries
    return _Trial(session, journey, theme, pictures, width).run(clicked, LONGEST_TRIAL if longest is None else longest)


class _Trial:
    def __init__(self, session: Session, journey: Journey, theme: str, pictures: LocalPictures, width: int) -> None:
        self.session, self.journey, self.width = session, journey, width
        self.page = ActingPage(journey, theme, pictures, loads=session.scripts is not None)
        self.notes = Notes(session)
        self.by_key = journey.published_view.by_key
        session.pictures = lambda address: _answer(pictures, address)
        session.tab.context.set_default_timeout(_PATIENCE)
        self.findings: dict[Finding, None] = {}
        self.trying: tuple[int | None, int | None] | None = None
        """Place of what is being clicked."""
        self.absent = absent_libraries(journey, session.scripts)
        self.untouched: list[frozenset[str]] = []
        """What changes by itself while the page's time goes on by a step, by the number of the step."""
        self.loading: tuple[str, ...] = ()
        self.by_itself: tuple[str, ...] = ()

    def run(self, clicked: Sequence[str], longest: float) -> Acted:
        controls: list[Control] = []
        more = 0
        self.session.deadline = time.monotonic() + longest
        self.findings |= dict.fromkeys(without_scripts(self.journey))
        try:
            self.begin(steps=max(2, len(clicked)))
            found = self.find(clicked)
            tried = found if clicked else found[:_MOST]
            more = len(found) - len(tried)
            controls.extend(self.clicks(tried, fresh=not clicked))  # what was tried stays, should one never end
            controls.extend(self.looks())
        except OverdueError:
            message = (
                f"The trial was ended after {longest:g} seconds, before all was tried. What came of it until then is "
                "told; --longest gives it more, and what a script does again and again may be what takes so long."
            )
            self.findings[Finding("act/time-up", "publish", message, None, None, Severity.WARNING)] = None
        except CrashedError:
            message = (
                f"The page broke down, as its scripts need more than {MOST_MEMORY:,} MB of memory: on many phones it "
                "would as well. Look for what they collect and never let go."
            )
            self.findings[Finding("act/memory", "publish", message, *self._script_place(), Severity.ERROR)] = None
        except StuckError:
            message = (
                "A script does not come to an end, and the page stands still: readers could do nothing on it. Look "
                "for a loop whose condition never changes."
            )
            self.findings[Finding("act/endless", "publish", message, *self._script_place(), Severity.ERROR)] = None
        self.session.deadline = None
        findings = [*self.findings, *dead_links(self.journey)]
        findings.sort(key=lambda each: (each.severity.rank, each.line or 0, each.column or 0))
        links = tuple(links_of(self.journey))
        return Acted(tuple(findings), links, tuple(controls), more, self.loading, self.by_itself)

    def begin(self, *, steps: int) -> None:
        """Look at the page without its scripts, then with them, and what time alone does to it."""
        self.session.open(self.page.html, self.width)
        still, mark = self.state(), self.notes.mark
        self.session.hold_time()
        first = at_rest = self.open()
        self.loading = described(still, first, self.where) if still else ()
        for _ in range(steps):
            later = self.go_on(_STEP)
            self.untouched.append(frozenset(changes(at_rest, later, self.where)))
            at_rest = later
        self.by_itself = described(first, self.go_on(_WATCHED - steps * _STEP), self.where)
        self.findings |= dict.fromkeys(self.told(self.notes.since(mark)))

    def where(self, number: str) -> str:
        """Return the place in the author's file of the element of a number; nothing where it has none."""
        key = int(number) if re.fullmatch(r"-?[0-9]{1,9}", number) else 0
        line, column = place_of(self.journey, key)
        return "" if line is None else f"{line}:{column}"

    def go_on(self, milliseconds: int) -> State:
        """Let time pass for the page, and return its state then."""
        if milliseconds > 0:
            self.session.pass_time(milliseconds)
        return self.rest()

    def _script_place(self) -> tuple[int | None, int | None]:
        """Return the place of what is being clicked, or else of the first script."""
        scripts = (each.key for each in self.journey.published.elements() if each.name == "script")
        return self.trying or place_of(self.journey, next(scripts, 0))

    def open(self) -> State:
        """Show the page anew, wait until it is at rest, and return its state then."""
        self.notes.begin()
        self.session.open(self.page.html, self.width, policy=self.page.policy)
        return self.go_on(_SETTLED)

    @property
    def frame(self) -> Frame:
        """The frame that the piece stands in."""
        tab = self.session.tab
        if self.journey.editor.profile.box is not None and len(tab.frames) > 1:
            return tab.frames[1]
        return tab.main_frame

    def state(self) -> State:
        state: State = self.ask(f"() => {{ ({HOLD})(document); return ({_script()})(); }}")
        return state

    def ask(self, script: str, argument: Any = None) -> Any:
        """Return what a script of ours returns in the frame of the piece, out of reach of the piece's own."""
        inner = self.journey.editor.profile.box is not None
        return self.session.evaluate_apart(script, argument, inner=inner, longest=_PATIENCE / 1000)

    def rest(self) -> State:
        """Return the state once two looks at it are the same, or time is up."""
        before = self.state()
        until = time.monotonic() + _REST
        while time.monotonic() < until:
            self.session.guard(lambda: self.session.tab.wait_for_timeout(40))
            now = self.state()
            if now == before:
                return now
            before = now
        return before

    def find(self, clicked: Sequence[str]) -> list[str]:
        """Return selectors of what to click."""
        for selector in clicked:
            if self.query(f'[{NUMBER}="0"] :is({selector})', f"--click {selector}") is None:
                raise InputError(f"--click {selector}: nothing in the published piece matches this selector.")
        if clicked:
            return [f'[{NUMBER}="0"] :is({selector})' for selector in clicked]
        numbers: list[str] = self.ask(_NUMBERS, FOUND)
        return [f'[{NUMBER}="{number}"]' for number in dict.fromkeys(numbers)]

    def query(self, selector: str, asked: str = "") -> ElementHandle | None:
        from playwright.sync_api import Error

        def ask() -> ElementHandle | None:
            try:
                return self.frame.query_selector(selector)
            except Error as error:
                if asked and ("not a valid selector" in str(error) or "parsing css selector" in str(error)):
                    raise InputError(f"{asked}: this is not a CSS selector. Give one such as .next or #more.") from None
                raise

        return self.session.guard(ask)

    def on(self, selector: str, script: str) -> Any:
        """Return what a script of ours returns for the first element that a selector matches; None when none does."""
        find = "Document.prototype.querySelector.call(document, selector)"
        return self.ask(f"selector => {{ const found = {find}; return found && ({script})(found) }}", selector)

    def clicks(self, selectors: Sequence[str], *, fresh: bool) -> Iterator[Control]:
        ticks = bool(self.by_itself) or any(self.untouched)
        changed = True  # whether the page is another than when it was opened
        for at, selector in enumerate(selectors):
            if not at or changed:
                self.open()
            element = self.query(selector)
            if element is None or (fresh and not self.on(selector, _VISIBLE)):
                continue
            key, name = self.named(element, selector)
            line, column = self.trying = place_of(self.journey, key)
            outcomes = []
            for time_of_click in (1, 2) if fresh else (1,):
                step = time_of_click - 1 if fresh else at
                told = self.click(selector, (line, column), self.untouched[step], str(key))
                outcomes.append(told)
                if told and not self.state():
                    break
                if told or time_of_click > 1:
                    continue
                if not self.leads_to_a_place(key):
                    self.nothing(name, line, column)
                break
            changed = fresh and (ticks or any(outcomes))  # a click is told apart from what time does by the time it is
            yield Control(line, column, name, tuple(outcomes), ())

    def leads_to_a_place(self, key: int) -> bool:
        """Tell whether a link leads to a place in the page, which may be in sight already."""
        element = self.by_key.get(key)
        return element is not None and element.attributes.get("href", "").startswith("#")

    def click(
        self, selector: str, place: tuple[int | None, int | None], untouched: frozenset[str], itself: str
    ) -> tuple[str, ...]:
        """Click on what stands at a place of the author's file, and return what came of it.

        Args:
            selector: What is clicked.
            place: Its line and column.
            untouched: What would have changed meanwhile without a click.
            itself: Its number.
        """
        element = self.query(selector)
        if element is None or not self.point_at(element, selector):
            return ("it is no longer there",)
        before, mark = self.state(), self.notes.mark
        if self.on(selector, _COVERED):
            return ("it cannot be clicked: something lies over it",)
        if self.on(selector, _NAME) == "select":
            self.on(selector, _CHOOSE_NEXT)
        else:
            # by the handle, not by the mouse: only this gives up when a script never ends
            self.session.guard(lambda: element.click(timeout=_PATIENCE, force=True, no_wait_after=True))
        after = self.go_on(_STEP)
        said = self.notes.since(mark)
        wrong = [each for each in said if each.kind in ("error", "refused")]
        self.findings |= dict.fromkeys(self.told(wrong, place))
        if before and not after:  # the frame of the piece has left
            return tuple(happened(said))
        found = changes(before, after, self.where, itself=itself)
        return (
            *shortened([each for each in found if each not in untouched]),
            *(f"needs {missing_name(each)}, which is not here" for each in said if self.is_missing(each)),
            *happened([each for each in said if not self.is_missing(each)]),
        )

    def is_missing(self, said: Said) -> bool:
        """Tell whether an error comes from a library that is not loaded here."""
        return bool(self.absent) and bool(missing_name(said))

    def point_at(self, element: ElementHandle, selector: str) -> bool:
        """Put the pointer on the middle of an element, as what it changes by that is told elsewhere."""
        self.on(selector, _INTO_SIGHT)
        box: Any = self.session.guard(element.bounding_box)
        if box is None:
            return False
        point = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.session.guard(lambda: self.session.tab.mouse.move(*point))
        return True

    def nothing(self, name: str, line: int | None, column: int | None) -> None:
        if any(each.rule == "act/scripts-off" for each in self.findings):  # told with it
            return
        message = f"A click on {name} changes nothing that readers could see."
        self.findings[Finding("act/nothing-happens", "publish", message, line, column, Severity.WARNING)] = None

    def named(self, element: ElementHandle, selector: str) -> tuple[int, str]:
        number = self.session.guard(lambda: element.get_attribute(NUMBER)) or "0"
        key = int(number) if re.fullmatch(r"-?[0-9]{1,9}", number) else 0
        ours = self.by_key.get(key)
        if ours is None:
            return 0, f"<{self.on(selector, _NAME)}>"
        text = text_of(ours)
        return key, f"<{ours.name}>" + (f" “{text}”" if text else "")

    def looks(self) -> Iterator[Control]:
        """Yield elements that look otherwise under the pointer or in focus, with their pictures."""
        keys = [key for key in pointed_at(self.journey.published_view) if key in self.by_key]
        if keys:
            self.open()
        for key in keys[:_MOST_LOOKS]:
            selector = f'[{NUMBER}="{key}"]'
            element = self.query(selector)
            if element is None or not self.on(selector, _VISIBLE):
                continue
            self.on(selector, _INTO_SIGHT)
            self.session.guard(lambda: self.session.tab.mouse.move(0, 0))
            at_rest = self.state()
            looks = [Look("at rest", (), self.portrait(element))]
            self.point_at(element, selector)
            looks.append(Look("hover", self.otherwise(at_rest, key), self.portrait(element)))
            self.session.guard(lambda: self.session.tab.mouse.move(0, 0))
            self.on(selector, _FOCUS)
            looks.append(Look("focus", self.otherwise(at_rest, key), self.portrait(element)))
            self.on(selector, _BLUR)
            shown = tuple(look for look in looks if look.state == "at rest" or look.changes)
            if len(shown) > 1:
                line, column = place_of(self.journey, key)
                yield Control(line, column, self.named(element, selector)[1], (), shown)

    def otherwise(self, at_rest: State, key: int) -> tuple[str, ...]:
        """Return what is other than at rest: of the element itself first, then of others."""
        now, own = self.state(), str(key)
        itself = differing(at_rest[own]["look"], now[own]["look"]) if own in at_rest and own in now else []
        others = {number: each for number, each in now.items() if number != own}
        before = {number: each for number, each in at_rest.items() if number != own}
        return (*itself, *described(before, others, self.where))

    def portrait(self, element: ElementHandle) -> bytes:
        box: Any = self.session.guard(element.bounding_box)
        if box is None:
            return b""
        scrolled = self.session.evaluate_apart("() => [scrollX, scrollY]")
        x, y = box["x"] + scrolled[0] - _MARGIN, box["y"] + scrolled[1] - _MARGIN
        return self.session.picture(
            Box(max(0, x), max(0, y), min(box["width"], 600) + 2 * _MARGIN, min(box["height"], 400) + 2 * _MARGIN)
        )

    def told(self, said: list[Said], clicked: tuple[int | None, int | None] = (None, None)) -> Iterator[Finding]:
        for each in said:
            if each.kind == "error" and not each.where and not self.session.keeps_time:
                continue  # of what counts the page's time: the piece has broken what that is made of
            if self.is_missing(each):
                yield self.cannot_judge(missing_name(each))
                continue
            message, severity = sentence(each)
            # browsers count places in handlers from the end of the tag
            place = (None, None) if _HANDLER.search(each.where) else self.page.place(each.where)
            if place == (None, None) and each.words.startswith("SyntaxError"):
                place = faulty_script(self.journey)  # browsers name no place of it
            line, column = clicked if place == (None, None) else place
            yield Finding(f"act/{RULES[each.kind]}", "publish", message, line, column, severity)

    def cannot_judge(self, name: str) -> Finding:
        """Return what is told of code that needs a library which is not here."""
        asked = self.absent[0] if len(self.absent) == 1 else f"one of {len(self.absent)}"
        message = (
            f"What needs {name} cannot be judged: its library is not loaded here ({asked[:100]}). Put a copy of it, "
            "under the same file name, into a folder, and name that with --libraries."
        )
        return Finding("act/library", "publish", message, *self._script_place(), Severity.NOTE)


def _answer(pictures: LocalPictures, address: str) -> tuple[bytes, str]:
    """Return the picture for an address: the author's own file, or a box with its name."""
    relative = address.removeprefix(ADDRESS)
    name = relative.split("?")[0].rsplit("/", 1)[-1]
    return pictures.file(relative) or (picture_box(name or "picture", 320, 200).encode(), "image/svg+xml")


@cache
def _script() -> str:
    return (Path(__file__).parent / "trial.js").read_text("utf-8")
