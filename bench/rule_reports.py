"""How many reports of the rules are right, and how many mistakes they find, on pages that installed packages ship.

``sample`` draws pages and reports, and prints them with what stands there, for somebody to judge; the judgements are
kept in ``rule_reports.csv``. ``held`` holds them against what the rules say now. ``seeded`` puts mistakes of our own
into such pages, three into each, one at a time, and counts those that are found. Pages are named by package, version
and path, and are not kept: install the packages first. ``python bench/rule_reports.py held``
"""

from __future__ import annotations

import csv
import random
import re
import subprocess
import sys
import tomllib
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

from verse_tray.checks.find import Found, find
from verse_tray.model.decoding import Source, decode
from verse_tray.model.errors import InputError
from verse_tray.piece.piece import Piece

PACKAGES = (
    *("sqlite3-doc", "apache2-doc", "gnuplot-doc", "imagemagick-6-doc", "libjs-jquery-ui-docs", "ntpsec-doc"),
    *("exim4-doc-html", "debian-faq", "zsh-doc", "privoxy", "libxslt1-dev", "valgrind"),
)
JUDGED = Path(__file__).with_name("rule_reports.csv")
SEEDS = Path(__file__).with_name("seeded_mistakes.toml")
LARGEST = 60_000
PAGES_OF_EACH, REPORTS, MOST_OF_A_RULE, MOST_ON_A_PAGE = 20, 200, 24, 3
SEED = 14


def version_of(package: str) -> str:
    """Return the installed version of a package; empty for none."""
    asked = subprocess.run(["dpkg-query", "-W", "-f=${Version}", package], capture_output=True, text=True, check=False)
    return asked.stdout


def pages(count: int, chance: random.Random) -> list[tuple[str, Path]]:
    """Return pages of each package."""
    found = []
    for package in PACKAGES:
        listed = subprocess.run(["dpkg", "-L", package], capture_output=True, text=True, check=False).stdout.split("\n")
        own = sorted(
            path
            for path in map(Path, listed)
            if path.suffix in (".html", ".htm") and path.is_file() and 500 < path.stat().st_size < LARGEST
        )
        found += [(package, path) for path in chance.sample(own, min(count, len(own)))]
    return found


def reports(path: Path) -> list[Found]:
    """Return what the rules say of a page."""
    return list(find(Piece(decode(path.read_bytes(), str(path))), folder=path.parent))


def sample() -> None:
    """Draw reports, and print them with what stands at their places."""
    chance = random.Random(SEED)
    drawn = []
    for package, path in pages(PAGES_OF_EACH, chance):
        by_rule: Counter[str] = Counter()
        try:
            told = reports(path)
        except InputError as error:
            print(error)
            continue
        for each in chance.sample(told, len(told)):
            by_rule[each.finding.rule] += 1
            if by_rule[each.finding.rule] <= MOST_ON_A_PAGE:
                drawn.append((package, path, each))
    chance.shuffle(drawn)
    counts: Counter[str] = Counter()
    writer = csv.writer(sys.stdout)
    for package, path, each in drawn:
        finding = each.finding
        if counts[finding.rule] >= MOST_OF_A_RULE or counts.total() >= REPORTS:
            continue
        counts[finding.rule] += 1
        lines = decode(path.read_bytes(), str(path)).text.split("\n")
        line, column = finding.line or 1, finding.column or 1
        there = lines[line - 1][max(0, column - 40) : column + 90] if line <= len(lines) else ""
        row = [package, version_of(package), path, f"{line}:{column}", finding.rule, "?", finding.message, there]
        writer.writerow(row)


def held() -> None:
    """Tell how many of the judged reports were right, and which of them the rules still make."""
    right, wrong, gone = 0, [], 0
    with JUDGED.open(encoding="utf-8", newline="") as file:
        for package, version, name, place, rule, verdict, *_ in csv.reader(file):
            if version_of(package) != version or not Path(name).is_file():
                print(f"not there: {package} {version} {name}")
                continue
            told = {(f"{e.finding.line or 1}:{e.finding.column or 1}", e.finding.rule) for e in reports(Path(name))}
            if (place, rule) not in told:
                gone += 1
            elif verdict == "right":
                right += 1
            else:
                wrong.append((name, place, rule))
    print(f"{right} right, {len(wrong)} wrong, {gone} no longer made (asked: 98 of 100 right)")
    for row in wrong:
        print(*row)


_BETWEEN = re.compile(r"</(?:p|h[1-6]|ul|ol|dl)>(?=\s*<(?:p|h[1-6]|ul|ol|div|dl)\b)", re.IGNORECASE)


def seeded(text: str, chance: random.Random, count: int) -> Iterator[tuple[str, list[str], str, int]]:
    """Yield kind, rules, the page with one mistake in it, and where that stands; as many as asked for.

    What never ends is not put where something further down in the page ends it.
    """
    places = [match.end() for match in _BETWEEN.finditer(text)]
    mistakes = tomllib.loads(SEEDS.read_text("utf-8"))["mistake"]
    for each in chance.sample(mistakes, len(mistakes)):
        if count == 0 or not places:
            return
        at = chance.choice(places)
        ended = {"comment that never ends": "-->", "field that never ends": "</textarea"}.get(each["kind"])
        if ended is None or ended not in text[at:]:
            count -= 1
            yield each["kind"], each["rules"], text[:at] + each["markup"] + text[at:], at


def find_seeded() -> None:
    """Put three mistakes into each of 100 pages, one at a time, and count those that are found."""
    chance = random.Random(SEED)
    found: Counter[str] = Counter()
    missed: list[tuple[str, str, str]] = []
    put = used = 0
    drawn = pages(2 * PAGES_OF_EACH, chance)
    chance.shuffle(drawn)
    for package, path in drawn:
        text = decode(path.read_bytes(), str(path)).text
        before = Counter(each.finding.rule for each in find(Piece(Source(text))))
        mistakes = list(seeded(text, chance, 3))
        used += len(mistakes) == 3
        for kind, rules, changed, at in mistakes if len(mistakes) == 3 else ():
            put += 1
            after = Counter(each.finding.rule for each in find(Piece(Source(changed))))
            if any(after[rule] > before[rule] for rule in rules):
                found[kind] += 1
            else:
                missed.append((kind, f"{package} {path}", changed[max(0, at - 20) : at + 100].replace("\n", "⏎")))
        if used == 100:
            break
    print(f"{found.total()} of {put} mistakes in {used} pages found: {found.total() / put:.1%} (asked: 95 %)")
    for row in missed:
        print("missed:", *row)


if __name__ == "__main__":
    {"sample": sample, "held": held, "seeded": find_seeded}[sys.argv[1]]()
