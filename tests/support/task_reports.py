"""Samples of what the tasks on top of checking tell: fitting, verifying, sending, auditing, sites, drift."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import msgspec

from support.editors import editor
from verse_tray.audit.answers import Drifted, Hurting, Period, Row, Saved, Trial, Verdicts
from verse_tray.editors.load import Editor, load_editor
from verse_tray.fitting.fit import fit, fit_together
from verse_tray.learning.drift import Difference
from verse_tray.learning.evidence import Evidence, Rule, Seen
from verse_tray.learning.session import Asked, Folder, Session
from verse_tray.model.decoding import Source
from verse_tray.piece.piece import Piece
from verse_tray.place.placement import Placement, Wanted, place
from verse_tray.place.steps import steps_of
from verse_tray.reports.archive.figures import grid_of_periods, grid_of_pieces
from verse_tray.reports.audit_text import Answers, audit_json, audit_text
from verse_tray.reports.fit_text import fit_json, fit_lines, together_lines
from verse_tray.reports.learn_text import drift_text, learned_json, learned_text
from verse_tray.reports.placement_text import as_json, placement_lines, placement_record
from verse_tray.reports.send_text import outcome_json, outcome_lines
from verse_tray.reports.site_text import site_text
from verse_tray.reports.verify_text import verified_text
from verse_tray.sites.load import Where, chosen_page, chosen_region, known_sites, load_site
from verse_tray.trays.sent import Sent, Version
from verse_tray.verifying.outcome import Outcome
from verse_tray.verifying.verified import Verified

WALK = """<style>.a { color: #1d4f53 } .b { display: none }</style>
<h2 class="a">Low water</h2>
<p onclick="x()">Meet at the <b>slipway</b>.</p>
<ul><li>boots<li>a lamp</ul>
<p class="b">Not shown</p>
"""
PLAIN = "<p>Low water at six.</p>\n"
SCRIPTED = """<style>p { margin: 0 }</style><p id="x">Low water</p><script>document.getElementById("x").click()</script>
"""
WORST = ("set-aside", "broken", "damaged", "rewritten", "intact")


def _rows() -> list[Row]:
    return [
        Row("notes", f"walks/low-water-{number}.html", "", "2026-03-01T06:00:00" if number % 2 else "", name,
            WORST[(number + rank) % 5], 100 - 9 * number, 3, 4, 900, 800, "stored characters", 0.88 + number / 50,
            "it took too long" if WORST[(number + rank) % 5] == "set-aside" else "",
            "save/elements, save/attributes, publish/scripts, paste/styles, save/x")
        for number in range(10) for rank, name in enumerate(("article", "blog-post"))
    ]  # fmt: skip


def _answers(*, few: bool) -> Answers:
    causes = [
        Hurting(f"save/rule-{number}", max(1, 4 - number), 9, (0, 2, 1)[number % 3],
                ("article", "blog-post", "course-page", "note-field")[: 1 + number % 4], "It is gone.", "a.html",
                None if number == 1 else 3, None if number == 1 else 7, "" if number % 2 else "Link to it.",
                (None, Trial(0, 0, 0), Trial(3, 0, 2), Trial(3, 2, 1), Trial(1, 1, 0), Trial(2, 0, 0))[number % 6])
        for number in range(8)
    ]  # fmt: skip
    drifted = [
        Drifted("notes", f"{number}.html", "article", "intact", WORST[number % 5], ("piece", "editor")[number % 2], "a")
        for number in range(14)
    ]
    counts = {verdict: 1_000 * rank + 1 for rank, verdict in enumerate(WORST)}
    if few:
        verdicts, fine = [Verdicts("article", {"intact": 1})], _rows()[4:5]
        worst = [fine[0]._replace(verdict="intact")]
        return Answers("one.audit", 1, verdicts, causes[:1], worst, [], Saved(1, 3, 5), [])
    verdicts = [Verdicts("article", counts), Verdicts("blog-post", {"intact": 7})]
    return Answers("notes.audit", 12_345, verdicts, causes, _rows(), _rows(), Saved(6, 1_200, 3_400), drifted)


def _verified() -> Iterator[tuple[str, Verified]]:
    piece, old = Piece(Source(WALK, "walk.html")), Piece(Source(WALK.replace("slipway", "lighthouse"), "old.html"))
    into = load_editor("blog-post")

    def held(stored: str = "", page: str = "") -> Verified:
        verified = Verified(piece, into, [old])
        if stored:
            verified.hold_stored(stored)
        if page:
            verified.hold_page(f"<!DOCTYPE html><html><body><main>{page}</main></body></html>")
        return verified

    first = held()
    stored, live = (first.journeys[0].stage(name).markup for name in ("save", "publish"))
    yield "good", held(stored, live)
    yield "written-otherwise", held(stored.replace("<b>", "<b >"))
    yield (
        "less",
        held(stored.replace("boots", "sandals").replace("<b>", "").replace("</b>", ""), live.replace("boots", "")),
    )
    yield "old", held("", live.replace("slipway", "lighthouse"))
    yield "absent", held("", "<p>Something else altogether, of another day</p>")
    yield "several", held("", live + "<p>and</p>" + live)
    yield "hidden", held("", f"<div hidden>{live}</div>")
    yield "code", held("", live.replace("<", "&lt;"))
    many = Verified(Piece(Source("".join(f"<p>Pool {n} had {n + 2} limpets</p>\n" for n in range(30)))), into)
    many.hold_stored("".join(f"<p>Pool {n} had {n + 3} limpets</p>\n" for n in range(30)))
    yield "many", many


def _learned(*, little: bool) -> tuple[Folder, Evidence, int]:
    asked = [Asked(number=at, date="2026-10-01", token="t", characters=9, cells=("elements b",)) for at in (1, 2)]
    session = Session(format="verse-tray-session/1", version="0.1.0", name="forum", most=9_000, probes=tuple(asked))
    folder = Folder(Path("tray/forum"), session if not little else msgspec.structs.replace(session, probes=()))
    if little:
        return folder, Evidence(80, (), (), {}, ()), 0
    lines = "<p>one</p>\n<p>two</p>"
    seen = [
        Seen("save", "elements b", "<b>x</b>", "<strong>x</strong>", "<b>x</b>"),
        Seen("reopen", "texts", lines * 9, lines * 9 + "<p>three</p>", lines * 8),
        Seen("publish", "texts", "<i>x</i>", None, "<i>x</i>"),
        Seen("save", "texts", "a\x1bb", "", "a"),
        *(Seen("save", "attributes", f"<p a{at}>", "<p>", f"<p a{at}>") for at in range(6)),
    ]
    rules = Rule("save.removeElements", 12, seen[0]), Rule("publish.scripts", 0, None), Rule("save.x", 1, seen[1])
    guesses = ("Attributes that were not asked about are kept.", "Nothing is known of limits.")
    return folder, Evidence(94, rules, tuple(seen), {"limits": 1, "tables": 12}, guesses), 40


def _placements() -> Iterator[tuple[str, Placement]]:
    for name, page, region, pieces in (
        ("survey-site", "reports", "body", (WALK, PLAIN)), ("survey-site", "home", "row", (SCRIPTED,)),
        ("field-blog", "post", "sidebar", (SCRIPTED, PLAIN)), ("field-blog", "post", "entry", (WALK,)),
    ):  # fmt: skip
        site = load_site(name)
        at = chosen_page(site, page)
        where = Where(site, at, chosen_region(site, at, region))
        wanted = [Wanted(Piece(Source(text, f"p{number}.html")), where) for number, text in enumerate(pieces)]
        yield f"{name}-{region}", place(site, wanted)


def task_reports() -> Iterator[tuple[str, Any]]:
    """Yield each report with the name of the file that holds it."""
    for few in (False, True):
        for every in (False, True):
            yield f"audit{'-few' * few}{'-every' * every}", audit_text(_answers(few=few), every=every)
        yield f"audit{'-few' * few}.json", audit_json(_answers(few=few))
    periods = [Period(name, f"{2015 + at // 12}-{1 + at % 12:02}" if at % 9 else "", 4, at % 5)
               for name in ("article", "blog-post") for at in range(30)]  # fmt: skip
    grids = [grid_of_periods(periods[:20]), grid_of_periods(periods), grid_of_pieces(_rows())]
    told = (f"{each.of}: {each.editors} {each.columns}\n{each.shares}\n{each.marks}\n" for each in grids)
    yield "audit-grids.text", "".join(told)
    for name, verified in _verified():
        yield f"verify-{name}", verified_text(verified)
    yield "verify-many-every", verified_text(dict(_verified())["many"], every=True)
    piece = Piece(Source(WALK, "walk.html"))
    small = Editor(
        "small", editor({}, limits=[{"measure": "stored", "unit": "characters", "most": 60, "over": "refuse"}]).profile
    )
    fits = [fit(piece, load_editor(name)) for name in ("blog-post", "article", "sidebar-box")] + [fit(piece, small)]
    for fitted, name in zip(fits, ("blog-post", "article", "sidebar-box", "small"), strict=True):
        yield f"fit-{name}.text", "\n".join(fit_lines(fitted)) + "\n"
    coloured = fit(Piece(Source(WALK.replace(' onclick="x()"', ""), "coloured.html")), load_editor("article"))
    longer = fit(Piece(Source('<p><font color="red">Low</font> water</p>', "longer.html")), load_editor("course-page"))
    yield "fit-rewritten.text", "\n".join((*fit_lines(coloured), *fit_lines(longer))) + "\n"
    yield "fit.json", fit_json([*fits[:2], coloured])
    together = fit_together(piece, [load_editor("blog-post"), load_editor("article")])
    yield "fit-together.text", "\n".join(together_lines(together)) + "\n"
    seen = dict(_verified())
    for state, done, held in (("draft", "created", None), ("published", "updated", seen["less"].held[0]),
                              ("published", "unchanged", seen["good"].held[0])):  # fmt: skip
        sent = Sent("walk.html", "survey-site", "blog-post", "https://notes.example.org/walk", state,
                    Version("<p>x</p>", "t"), "h")  # fmt: skip
        yield f"send-{done}.text", "\n".join(outcome_lines(Outcome(sent, held, done), "low water.html")) + "\n"
        yield f"send-{done}.json", outcome_json(Outcome(sent, held, done))
    for little in (False, True):
        folder, evidence, telling = _learned(little=little)
        yield f"learned{'-little' * little}", learned_text(folder, evidence, telling)
        yield f"learned{'-little' * little}-every", learned_text(folder, evidence, 0, every=True)
        yield f"learned{'-little' * little}.json", learned_json(folder, evidence, telling)
    for name, placement in _placements():
        steps = steps_of(placement)
        yield f"place-{name}.text", "\n".join(placement_lines(placement, steps, Path("out"))) + "\n"
        yield f"place-{name}.json", as_json(placement_record([(placement, steps)]))
    for name in known_sites():
        yield f"site-{name}", site_text(load_site(name))
    changes = (Difference("save.elements", "a", "b"), Difference("save.limits", "", "b"), Difference("paste", "a", ""))
    for name, found in (("drift", changes), ("drift-none", ())):
        yield f"{name}.text", "\n".join(drift_text("2026-10-01", found)) + "\n"
