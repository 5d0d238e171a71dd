"""The browser's own Sanitizer API with random configurations, as editors of which nothing is known."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

from playwright.sync_api import sync_playwright

from support.surface import COPY, SURFACE
from verse_tray.preview.browser.find import find_browser

_NAMES = (
    "a abbr article aside b blockquote br caption code col colgroup dd del details div dl dt em figcaption "
    "figure footer h1 "
    "h2 h3 h4 header hr i iframe img ins kbd li main mark nav ol p pre q s section small span strong style sub "
    "summary sup "
    "table tbody td tfoot th thead time tr u ul font center button video audio svg form input script select"
).split()
_ATTRIBUTES = (
    "href src alt title class id style width height align lang dir target rel role aria-label aria-hidden "
    "colspan rowspan "
    "scope border name type value start tabindex onclick loading color size"
).split()
_CLEAN = """([fragment, configuration, safe]) => {
  const element = document.createElement('body');
  if (safe) element.setHTML(fragment, {sanitizer: configuration});
  else element.setHTMLUnsafe(fragment, {sanitizer: configuration});
  return element.innerHTML;
}"""


def configuration(rng: random.Random) -> dict[str, Any]:
    """Return a random valid configuration of a kind that somebody may write."""
    names = rng.sample(_NAMES, len(_NAMES))
    attributes = rng.sample(_ATTRIBUTES, len(_ATTRIBUTES))
    config: dict[str, Any] = {}
    gone = rng.randint(0, 6)
    if gone:
        config["replaceWithChildrenElements"] = names[:gone]
    names = names[gone:]
    if rng.random() < 0.6:
        config["comments"] = rng.random() < 0.5
    lists = rng.choice(("attributes", "removeAttributes"))
    count = rng.randint(3, 20) if lists == "attributes" else rng.randint(1, 8)
    config[lists] = attributes[:count]
    if lists == "attributes" and rng.random() < 0.7:
        config["dataAttributes"] = rng.random() < 0.5
    if rng.random() < 0.4:
        config["removeElements"] = names[: rng.randint(1, 12)]
    else:
        kept: list[Any] = names[: rng.randint(12, 55)]
        for index in rng.sample(range(len(kept)), rng.randint(0, 5)):
            own = attributes[count : count + rng.randint(1, 3)]
            key = "removeAttributes" if lists == "removeAttributes" and rng.random() < 0.5 else "attributes"
            if own:
                kept[index] = {"name": kept[index], key: own}
        config["elements"] = kept
    return config


@contextmanager
def native_boxes(count: int, seed: int) -> Iterator[Iterator[tuple[str, Callable[[str], dict[str, str] | None]]]]:
    """Yield so many editors that clean with the browser's own methods, the safe one and the other in turn."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=str(find_browser()))
        page = browser.new_page()
        page.set_content("<!DOCTYPE html><body>")

        def boxes() -> Iterator[tuple[str, Callable[[str], dict[str, str] | None]]]:
            rng = random.Random(seed)
            for number in range(count):
                config, safe = configuration(rng), number % 2 == 0

                def box(text: str, config: dict[str, Any] = config, safe: bool = safe) -> dict[str, str]:
                    return {"save": page.evaluate(_CLEAN, [text, config, safe])}

                yield f"configuration {number} {'safe' if safe else 'unsafe'}", box

        yield boxes()
        browser.close()


@contextmanager
def surface_box() -> Iterator[Callable[[str], dict[str, str] | None]]:
    """Yield the browser's own editing surface as an editor: a text is pasted into it as rich text, with real keys."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=str(find_browser()))
        page = browser.new_page()
        page.route("**/*", lambda route: route.fulfill(body=SURFACE, content_type="text/html"))
        page.goto("https://page.example/")

        def box(text: str) -> dict[str, str]:
            page.evaluate(COPY, text)
            page.keyboard.press("Control+C")
            page.evaluate("() => document.getElementById('pane').focus()")
            page.keyboard.press("Control+V")
            return {"save": page.evaluate("() => document.getElementById('pane').innerHTML")}

        yield box
        browser.close()
