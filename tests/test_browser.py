"""What an installed browser says: trees, native sanitising, pasting and typing, made and joined pieces."""

from __future__ import annotations

import random
import tomllib
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from playwright.sync_api import Browser, Page

import verse_tray
from support.editors import editor
from support.markup import collected, fragments
from support.surface import COPY, SURFACE
from verse_tray.checks.find import find
from verse_tray.edit.apart import copies, set_apart
from verse_tray.edit.layout import compact, neaten
from verse_tray.join.paste import join
from verse_tray.journeys.journey import journey
from verse_tray.make.builder import Styles
from verse_tray.make.pictures import Picture, make_slider, make_swap
from verse_tray.make.table import TableLook, make_table
from verse_tray.markup.addresses import host_of, scheme_of
from verse_tray.markup.parse import browser_serialisation, parse_fragment
from verse_tray.markup.serialise import serialise
from verse_tray.markup.tree import Tree
from verse_tray.model.decoding import Source
from verse_tray.model.errors import ProfileError
from verse_tray.piece.piece import Piece
from verse_tray.script.faults import script_fault
from verse_tray.style.cascade import cascade
from verse_tray.style.sheets import parse_sheet

pytestmark = pytest.mark.browser

SET_INNER = """fragments => fragments.map(fragment => {
  const body = document.implementation.createHTMLDocument('').body;
  body.innerHTML = fragment;
  return body.innerHTML;
})"""
SET_SAFE = """([cases, safe]) => cases.map(([fragment, configuration]) => {
  const element = document.createElement('body');
  if (safe) element.setHTML(fragment, {sanitizer: configuration});
  else element.setHTMLUnsafe(fragment, {sanitizer: configuration});
  return element.innerHTML;
})"""

REGISTERED = """rows => rows.map(([value, syntax], number) => {
  const far = 'url(https://q.example/)';
  const initial = {'<color>': 'tan', '<url>': far, '<image>': far, '<angle>': '7deg', '<time>': '7s',
    '<resolution>': '7dppx', '<string>': '"q"', '<transform-function>': 'scale(7)', '<percentage>': '7%'};
  const kind = syntax.split('|')[0].trim().replace(/[+#]$/, '');
  const first = initial[kind] ?? (/number|integer/.test(kind) ? '777' : /ident/.test(kind) ? 'qqq' : '777px');
  CSS.registerProperty({name: `--p${number}`, syntax, inherits: false, initialValue: first});
  const element = document.querySelector('p');
  const before = getComputedStyle(element).getPropertyValue(`--p${number}`);
  element.style.setProperty(`--p${number}`, value);
  return getComputedStyle(element).getPropertyValue(`--p${number}`) !== before;
})"""
IS_VALID = """([configurations, safe]) => configurations.map(sanitizer => {
  const element = document.createElement('div');
  try {
    if (safe) element.setHTML('x', {sanitizer}); else element.setHTMLUnsafe('x', {sanitizer});
    return true;
  } catch { return false }
})"""
PUT_CARET = """markup => {
  const pane = document.getElementById('pane'), range = document.createRange(), selection = getSelection();
  pane.innerHTML = markup;
  pane.focus();
  let last;
  for (let walker = document.createTreeWalker(pane, NodeFilter.SHOW_TEXT), node; node = walker.nextNode();) last = node;
  range.setStart(last, last.length);
  selection.removeAllRanges(); selection.addRange(range);
}"""
SHOWN_TEXT = """texts => texts.map(text => {
  const holder = document.createElement('div');
  document.body.replaceChildren(holder);
  holder.setHTMLUnsafe(text, {sanitizer: {removeElements: ['script', 'select', 'meta', 'frame', 'iframe']}});
  return holder.innerText;
})"""
KEPT = """texts => texts.map(text => {
  const element = document.createElement('p');
  element.style = text;
  return element.style.length > 0;
})"""
XLINK = "http://www.w3.org/1999/xlink"
DATA = Path(__file__).parent / "data"


@pytest.fixture(scope="module")
def only_tab(browser: Browser) -> Page:
    return browser.new_page()


@pytest.fixture
def tab(only_tab: Page) -> Page:
    """The tab, as if it had just been opened."""
    only_tab.unroute_all()
    only_tab.emulate_media(reduced_motion="null")
    only_tab.set_viewport_size({"width": 1280, "height": 720})
    only_tab.goto("about:blank")
    return only_tab


def test_trees_are_those_of_the_browser(tab: Page) -> None:
    samples = collected(600)
    theirs = tab.evaluate(SET_INNER, samples)
    ours = [serialise(parse_fragment(sample).tree).markup for sample in samples]
    assert [row for row in zip(samples, theirs, ours, strict=True) if row[1] != row[2]] == []


def configuration(chance: random.Random) -> dict[str, Any]:
    """Return a random valid configuration."""
    names = "a b p div table tbody tr td img title script span ul li i".split()
    attributes = "href class id style onclick title src".split()
    chance.shuffle(names)
    chance.shuffle(attributes)
    config: dict[str, Any] = {"replaceWithChildrenElements": names[:2]} if chance.random() < 0.8 else {}
    if chance.random() < 0.7:
        config["comments"] = chance.random() < 0.5
    globally = chance.choice(["attributes", "removeAttributes"])
    if chance.random() < 0.85:
        config[globally] = attributes[:4]
    if "attributes" in config and chance.random() < 0.7:
        config["dataAttributes"] = chance.random() < 0.5
    if chance.random() < 0.5:
        config["removeElements"] = [*names[2:6], "iframe"]
    else:
        own = chance.choice(["attributes", "removeAttributes"]) if "removeAttributes" in config else "attributes"
        svg = {"name": "svg", "namespace": "http://www.w3.org/2000/svg"}
        config["elements"] = [*names[2:10], {"name": names[10], own: attributes[4:6]}, svg, "select", "option"]
    return config


@pytest.mark.parametrize("safe", [True, False])
def test_adopted_editors_do_what_the_native_sanitiser_does(tab: Page, safe: bool) -> None:
    chance = random.Random(3)
    # the browser filters while it parses, so both are given markup that reads the same again
    settled = [text for text in map(browser_serialisation, collected(500)) if browser_serialisation(text) == text]
    cases: list[Any] = [[text, configuration(chance)] for text in settled if "<?" not in text and "<form" not in text]
    theirs = tab.evaluate(SET_SAFE, [cases, safe])
    differing = []
    for (text, config), native in zip(cases, theirs, strict=True):
        ours = journey(text, verse_tray.adopt(config, safe=safe)).stages[-1].markup
        if ours != native:
            differing.append((text, config, native, ours))
    assert len(cases) > 200
    assert differing == []


def any_configuration(chance: random.Random) -> dict[str, Any]:
    """Return a random configuration, valid or not."""
    names = ["p", "b", "i", {"name": "p"}, {"name": "b", "namespace": "http://www.w3.org/2000/svg"}, "html", "div"]
    attributes = ["href", "class", "data-x", {"name": "href"}, {"name": "href", "namespace": XLINK}, "title"]
    config: dict[str, Any] = {}
    for key in ("elements", "removeElements", "replaceWithChildrenElements"):
        if chance.random() < 0.4:
            config[key] = chance.choices(names, k=chance.randrange(3))
    for key in ("attributes", "removeAttributes"):
        if chance.random() < 0.3:
            config[key] = chance.choices(attributes, k=chance.randrange(3))
    for key in ("comments", "dataAttributes"):
        if chance.random() < 0.2:
            config[key] = chance.random() < 0.5
    if "elements" in config and chance.random() < 0.6:
        own = {key: chance.choices(attributes, k=chance.randrange(3)) for key in ("attributes", "removeAttributes")
               if chance.random() < 0.5}  # fmt: skip
        config["elements"].append({"name": "li", **own})
    return config


@pytest.mark.parametrize("safe", [True, False])
def test_configurations_are_refused_as_the_browser_refuses_them(tab: Page, safe: bool) -> None:
    chance = random.Random(5)
    configs = [any_configuration(chance) for _ in range(1500)]
    theirs = tab.evaluate(IS_VALID, [configs, safe])
    ours = []
    for config in configs:
        try:
            verse_tray.adopt(config, safe=safe)
        except ProfileError:
            ours.append(False)
        else:
            ours.append(True)
    assert 300 < sum(theirs) < 1200
    assert [row for row in zip(configs, theirs, ours, strict=True) if row[1] != row[2]] == []


@pytest.fixture
def surface(tab: Page) -> Page:
    """Return a page with an editing surface, ``#pane``, and whatever ``window.copied`` holds on its way to it."""
    tab.route("**/*", lambda route: route.fulfill(body=SURFACE, content_type="text/html"))
    tab.goto("https://page.example/")
    return tab


@pytest.mark.long
def test_rich_text_is_pasted_as_into_a_real_editing_surface(surface: Page) -> None:
    samples = tomllib.loads((DATA / "rich_paste.toml").read_text("utf-8"))["samples"]
    field = editor({}, paste={"pane": "visual-rich"})
    differing = []
    for sample in samples:
        surface.evaluate(COPY, sample)
        surface.keyboard.press("Control+C")
        surface.evaluate("() => document.getElementById('pane').focus()")
        surface.keyboard.press("Control+V")
        native = surface.evaluate("() => document.getElementById('pane').innerHTML")
        ours = journey(sample, field).stage("paste").markup
        if ours != native:
            differing.append((sample, native, ours))
    assert len(samples) >= 60
    assert differing == []


@pytest.mark.long
def test_typing_is_taken_as_by_a_real_editing_surface(surface: Page) -> None:
    cases = tomllib.loads((DATA / "typing.toml").read_text("utf-8"))
    field = editor({}, reopen={})
    differing = []
    for start in cases["starts"]:
        for keys in cases["keys"]:
            surface.evaluate(PUT_CARET, start)
            for key in keys:
                if len(key) > 1:
                    surface.keyboard.press(key)
                else:
                    surface.keyboard.type(key)
            native = surface.evaluate("() => document.getElementById('pane').innerHTML")
            ours = journey(start, field, typed=tuple(keys)).stage("reopen").markup
            if ours != native:
                differing.append((start, keys, native, ours))
    assert differing == []


SELECTORS = (
    "p|div > p|p + b|p ~ i|a b|[title]|[class='x y']|[class~=y]|[id^=x]|[href*=script]|.x|.x.y|p:first-child"
    "|b:only-child|:nth-child(2)|b:nth-of-type(2)|:nth-last-child(1)|p:empty|:not(p)|:is(p,b)|p :not(b) i|*|table td"
    "|:root > p|html p|tr:first-child > td|[class=X i]|CUSTOM-TAG|svg title|foreignObject|td:nth-child(odd)"
    "|:first-of-type|:link|:has(b)|p:has(> i)|p:nth-child(2n+1 of .x)|template i|body > p"
).split("|")
MATCHES = """([fragments, selectors]) => fragments.map(fragment => {
  const {body} = document.implementation.createHTMLDocument('');
  body.innerHTML = fragment;
  return selectors.map(selector => [...body.querySelectorAll('*')].map(element => element.matches(selector)));
})"""


def test_selectors_match_what_they_match_in_the_browser(tab: Page) -> None:
    samples = list(map(browser_serialisation, collected(150)))
    for sample, theirs in zip(samples, tab.evaluate(MATCHES, [samples, SELECTORS]), strict=True):
        tree = parse_fragment(sample).tree
        hidden = {id(e) for each in tree.elements() if each.name == "template" for e in Tree(each).elements()}
        elements = [element for element in tree.elements() if id(element) not in hidden]  # no part of the document
        for selector, matched in zip(SELECTORS, theirs, strict=True):
            found = cascade(tree, elements, [parse_sheet(f"{selector} {{ --zz: 1 }}")])
            ours = ["--zz" in found.winners.get(element.key, {}) for element in elements]
            assert (found.skipped, ours) == ((), matched), (selector, sample)


@settings(max_examples=150, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(fragments)
def test_readers_see_the_same_text_of_a_piece_that_was_laid_out(tab: Page, text: str) -> None:
    source = Source(text)
    texts = [text, neaten(source).text, compact(source).text]
    shown = [each.strip() for each in tab.evaluate(SHOWN_TEXT, texts)]
    assert shown[1:] == shown[:1] * 2


LOW, HIGH = (Picture(f"https://pictures.gannetcove.example/{name}.png", name, 400, 300) for name in ("low", "high"))


def test_a_slider_moves_on_its_buttons_and_a_swap_on_a_click_or_a_key(tab: Page) -> None:
    slider = make_slider([LOW, HIGH], Styles.ELEMENT, label="Tides", width=400, height=300, form="buttons", name="s")
    swap = make_swap(LOW, HIGH, Styles.ELEMENT, form="script", name="w")
    inline = make_swap(LOW, HIGH, Styles.INLINE, form="script", name="v")
    tab.emulate_media(reduced_motion="reduce")
    tab.set_content(f"<!DOCTYPE html>{slider.markup}{swap.markup}{inline.markup}")
    assert tab.evaluate("document.getElementById('s-track').scrollLeft") == 0
    tab.click("[data-next]")
    tab.wait_for_function("document.getElementById('s-track').scrollLeft === 400")
    tab.click("[data-back]")
    tab.wait_for_function("document.getElementById('s-track').scrollLeft === 0")
    for name in ("w", "v"):
        assert tab.locator(f"#{name} img:visible").get_attribute("alt") == "low"
        tab.click(f"#{name}")
        assert tab.locator(f"#{name} img:visible").get_attribute("alt") == "high"
        tab.focus(f"#{name}")
        tab.keyboard.press("Enter")
        assert tab.locator(f"#{name} img:visible").get_attribute("alt") == "low"


def test_without_scripts_a_slider_scrolls_by_keys_and_a_swap_opens(tab: Page) -> None:
    slider = make_slider([LOW, HIGH], Styles.ELEMENT, label="Tides", width=400, height=300, form="scroll", name="s")
    swap = make_swap(LOW, HIGH, Styles.ELEMENT, form="details", name="w")
    tab.emulate_media(reduced_motion="reduce")
    tab.set_content(f"<!DOCTYPE html>{slider.markup}{swap.markup}")
    tab.focus("#s-track")
    tab.keyboard.press("ArrowRight")
    tab.wait_for_function("document.getElementById('s-track').scrollLeft === 400")
    assert tab.locator(".w img:visible").get_attribute("alt") == "low"
    tab.focus(".w summary")
    tab.keyboard.press("Enter")
    assert tab.locator(".w img:visible").get_attribute("alt") == "high"


def test_a_table_fits_the_phone_that_it_was_fitted_to(tab: Page) -> None:
    rows = [["Day", "Low water", "Counted last year", "Meet at"], ["Saturday", "06:12", "1,204", "slipway"]]
    made = make_table(rows, TableLook(), Styles.ELEMENT)
    tab.set_viewport_size({"width": 375, "height": 800})
    page = f"<!DOCTYPE html><body style='margin: 0 16px; font: 16px DejaVu Sans'>{made.markup}"
    tab.set_content(page)
    assert tab.evaluate("document.documentElement.scrollWidth") <= 375
    assert tab.evaluate("parseFloat(getComputedStyle(document.querySelector('table')).fontSize)") <= 16


def test_a_joined_piece_runs_and_two_set_apart_do_not_clash(tab: Page) -> None:
    parts = [
        ("t.html", "<div id=tides class=box><b id=next>?</b><button class=more>x</button></div>"),
        ("t.css", ".box { color: rgb(1, 2, 3) }"),
        (
            "t.js",
            "const b = document.querySelector('.more'); document.getElementById('next').textContent = '</script>';",
        ),
    ]
    joined = join([Source(text, name) for name, text in parts], []).fragment()
    pieces = [set_apart(Piece(Source(joined)), name)[0] for name in ("ebb", "flow")]
    faults: list[str] = []
    tab.on("pageerror", lambda error: faults.append(str(error)))
    tab.set_content("<!DOCTYPE html>" + "".join(pieces))
    assert tab.locator("#ebb-next").inner_text() == "</script>"
    assert tab.locator("#flow-next").inner_text() == "</script>"
    assert tab.evaluate("getComputedStyle(document.querySelector('.flow-box')).color") == "rgb(1, 2, 3)"
    assert faults == []


def test_a_swap_works_whatever_the_site_does_with_pictures(tab: Page) -> None:
    for styles in (Styles.INLINE, Styles.ELEMENT, Styles.NONE):
        swap = make_swap(LOW, HIGH, styles, form="script", name="w").markup
        tab.set_content(f"<!DOCTYPE html><style>.post img {{ display: block }}</style><div class=post>{swap}</div>")
        shown = "[...document.images].map((image) => image.getClientRects().length > 0)"
        assert tab.evaluate(shown) == [True, False]
        tab.locator("#w").click()
        assert tab.evaluate(shown) == [False, True]


def test_copies_of_a_piece_work_each_by_itself(tab: Page) -> None:
    piece = (
        "<style>.on { color: rgb(1, 2, 3) } .card { animation: fade 1s } @keyframes fade { to { opacity: 1 } }</style>"
        '<div id="box"><p id="out" class="card">0</p><button onclick="go(this); count++">go</button>'
        '<label for="n">n</label><input id="n" type="radio" name="t" value="1"><input type="radio" name="t" value="2">'
        '<img usemap="#m" src="x.png" alt="x"><map name="m"><area href="#out" alt="y"></map></div><p id="p-1">-</p>'
        "<script>let count = 0; function go(b) { count += 10; document.getElementById('out').textContent = count; "
        "document.querySelector('#box').className = 'on'; document.getElementById('p-' + 1).innerHTML = "
        "'<b class=\"card\">' + twice(2) + '</b>'; }</script><script>function twice(n) { return n * 2 + count }"
        "</script>"
    )
    page, notes = copies(Piece(Source(piece)), 2, "k")
    assert notes == []
    faults: list[str] = []
    tab.on("pageerror", lambda error: faults.append(str(error)))
    tab.set_content(f"<!DOCTYPE html>{page}")
    for _ in range(2):
        tab.locator("button").nth(1).click()
    tab.locator("button").nth(0).click()
    assert [tab.locator(f"#k-{n}-out").inner_text() for n in (1, 2)] == ["10", "21"]
    assert [tab.locator(f"#k-{n}-p-1 .k-{n}-card").inner_text() for n in (1, 2)] == ["14", "25"]
    assert tab.evaluate("getComputedStyle(document.getElementById('k-2-box')).color") == "rgb(1, 2, 3)"
    tab.locator("label").nth(0).click()
    tab.locator("label").nth(1).click()
    assert tab.evaluate("document.querySelectorAll('input:checked').length") == 2
    assert tab.evaluate("[...document.querySelectorAll('[id]')].length === new Set([...document.querySelectorAll("
                        "'[id]')].map((e) => e.id)).size")  # fmt: skip
    assert faults == []


SIDE_BY_SIDE = (
    "margin padding border border-radius gap flex transform object-position font-size grid-template-columns "
    "text-decoration list-style outline inset transform-origin"
).split()
SUMS = ["calc(100%-20px)", "calc(100% - 20px)", "calc(100% -20px)", "calc((1px + 2px)*-3)", "calc(1e-1px*2)", "100 %",
        "min(10px, 50%-1px)", "calc(10px - -3px)", "calc(2*(1px)+2px)", "max(-1px, 1px)", "calc(1px*+2)"]  # fmt: skip


WRITTEN = (
    ".a,|, .a|.a,,.b|#1a|.2col p|.a:hoover|.a::befor|p:frist-child|. a|#a#|.a..b|div >|+ b|.a ~, b|.a:fist-letter"
    "|.a > .b|p:not(.a)|[title='#1a, ']|a:nth-child(2n + 1 of .x)|.a:before|.é|#-a|._1|a:has(> b)|*|p::part(x)"
    "|a:any-link|:host(.a)|a:active-view-transition|:state(x)|details:open|::details-content|.a1,#b2:focus-visible"
    "|.a:is(b,)"
).split("|")
READ_RULES = """all => all.map(each => {
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(`${each} { color: red }`);
  return sheet.cssRules.length > 0;
})"""


def test_what_the_rules_call_unreadable_is_what_browsers_throw_away(tab: Page) -> None:
    scripts = [
        "let a = 1",
        "let a = ;",
        "a?.b ?? c",
        "if (",
        "`${1}`",
        "class A { #x = 1 }",
        "var var",
        "<!-- x",
        "return 1",
    ]
    reads = "texts => texts.map(text => { try { new Function(text); return true } catch { return false } })"
    theirs = tab.evaluate(reads, [text for text in scripts if "return" not in text])
    ours = [script_fault(text) is None for text in scripts if "return" not in text]
    assert ours == theirs
    declared = [
        "width: 300",
        "width: 300px",
        "transition: all 0.3",
        "transition: all 0.3s",
        "border: 1 solid red",
        "colour: red",
        *(f"{name}: {value}" for name in SIDE_BY_SIDE for value in ("1px, 2px", "none, none", "1px")),
        *(f"width: {value}" for value in SUMS),
    ]
    tab.set_content("<!DOCTYPE html><p>")  # without a doctype browsers forgive a missing unit
    kept = tab.evaluate(KEPT, declared)
    rules = [not find(Piece(Source(f'<p style="{text}">x</p>'))) for text in declared]
    false = [text for text, right, really in zip(declared, rules, kept, strict=True) if really and not right]
    missed = [text for text, right, really in zip(declared, rules, kept, strict=True) if right and not really]
    assert (false, missed) == ([], [])
    assert not tab.evaluate("matchMedia('(max-width: 9000)').matches")  # without a unit
    valid = tab.evaluate(READ_RULES, WRITTEN)
    told = [bool(_of_selectors(f"<style>{each} {{ color: red }}</style>")) for each in WRITTEN]
    assert [each for each, known, wrong in zip(WRITTEN, valid, told, strict=True) if known == wrong] == []


def _of_selectors(markup: str) -> list[str]:
    return [each.finding.rule for each in find(Piece(Source(markup))) if each.finding.rule == "styles/selector"]


PARTS = (
    ["http:", "https:", "HTTPS:", "ftp:", "mailto:", "javascript:", "java\tscript:", "//", "", "/", "x-y+z:", "1a:",
     " https:", "\x01http:", "ws:", "blob:", "ht\ntp:"],
    ["//", "/", "", "\\\\", "///", "/\\"],
    ["", "", "user@", "a:b@", "a@b@"],
    ["pools.example", "POOLS.example.", "xn--bcher-kva.example", "bücher.example", "127.1", "0x7f.1", "[::1]",
     "a_b.example", "a%41.example", "pools．example", "", "..", "ex%zzample", "1.2.3.4.5", "ＧＯ.example",
     "a<b.example", "0300.1"],
    ["", "", ":80", ":443", ":8080", ":x", ":99999", ":"],
    ["", "/", "/x?y=1#z", "?q", "#f", "\\x", "/a b"],
)  # fmt: skip
READ = """addresses => addresses.map(address => {
  let absolute = null, read = null;
  try { absolute = new URL(address) } catch {}
  try { read = new URL(address, 'https://page.example/folder/') } catch {}
  return read && [(absolute ?? read).protocol.slice(0, -1), read.hostname, absolute !== null];
})"""


def test_schemes_and_hosts_are_those_that_the_browser_reads(tab: Page) -> None:
    chance = random.Random(5)
    addresses = list(dict.fromkeys("".join(map(chance.choice, PARTS)) for _ in range(1_500)))[:500]
    differing = []
    for address, read in zip(addresses, tab.evaluate(READ, addresses), strict=True):
        if read is None:  # it cannot be read, so nothing is ever followed
            continue
        scheme, host, whole = read
        ours = scheme_of(address), host_of(address)
        told = scheme if whole or ours[0] is not None else None  # of the page's own scheme is what has none
        if ours != (told, None if host in ("", "page.example") else host):
            differing.append((address, read, *ours))
    assert len(addresses) == 500
    assert differing == []


def test_values_are_of_a_syntax_where_a_browser_says_so(tab: Page) -> None:
    rows = tomllib.loads((DATA / "styles.toml").read_text("utf-8"))["syntax"]["rows"]
    rows = [row for row in rows if "!" not in row[0] and row[0] and "var(" not in row[0]]
    tab.set_content("<p></p>")
    found = tab.evaluate(REGISTERED, rows)
    assert found == [row[2] for row in rows]


def test_what_style_sheets_ask_is_read_as_the_browser_reads_it(tab: Page) -> None:
    asked = tomllib.loads((Path(__file__).parent / "data" / "asked.toml").read_text("utf-8"))
    script = """rows => rows.map(row => {
      const [asked, not] = [row, `not (${row})`].map((each) => matchMedia(each));
      return asked.media === "not all" || !(asked.matches || (row.startsWith("(") && not.matches));
    })"""
    assert all(tab.evaluate(script, asked["never"]))
    tab.set_viewport_size({"width": 800, "height": 600})
    elsewhere = ["print", "not screen and (hover)", "not ((hover) and (pointer))"]
    assert not any(tab.evaluate(script, [row for row in asked["fine"] if row not in elsewhere]))
    taken = "rows => rows.map(row => CSS.supports(row))"
    assert not any(tab.evaluate(taken, [bare for bare, _ in asked["bare"]]))
    assert all(tab.evaluate(taken, [*(mended for _, mended in asked["bare"]), *asked["whole"]]))
