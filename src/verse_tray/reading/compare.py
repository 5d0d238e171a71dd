"""Two readings compared: how much of the one the other gives, and each difference that a person would see."""

from __future__ import annotations

from math import log, prod

from verse_tray.markup.addresses import is_same_address
from verse_tray.reading.boxes import compare_boxes
from verse_tray.reading.differences import Comparison, Difference, distance, nearness
from verse_tray.reading.layout import compare_layout
from verse_tray.reading.meaning import SEEN_ROLE
from verse_tray.reading.pairing import Pairing, pair, plain_word, words_of
from verse_tray.reading.records import Look, Medium, Reading
from verse_tray.reading.thresholds import THRESHOLDS
from verse_tray.style.colours import written

WEIGHTS = {"content": 0.34, "look": 0.28, "boxes": 0.18, "layout": 0.10, "links": 0.06, "meaning": 0.04}
"""What each kind weighs in how much alike two readings are (held against pictures by bench/truth.py)."""
_CHARACTERS = 40
"""As many characters of text weigh as much as one picture does in the content."""

_FEATURES = {
    "colour": 0.4, "ground": 0.5, "size": 0.4, "bold": 0.25, "slanted": 0.12, "family": 0.2, "lines": 0.15,
    "align": 0.25, "spacing": 0.06, "leading": 0.1, "shadow": 0.06,
}  # fmt: skip
"""Which share of the likeness of a text is lost with each trait of its look."""


def compare(before: Reading, after: Reading, *, by_text: bool = False, pairing: Pairing | None = None) -> Comparison:
    """Compare what readers were to see with what they get.

    Args:
        before: The reading of what was written.
        after: That of what is published.
        by_text: Whether the keys of the two have nothing to do with one another.
        pairing: Which runs are which, where that is known.
    """
    found = Comparison()
    if pairing is None:
        pairing = pair(before, after, by_text=by_text)
    shares = {
        "text": _text(before, after, pairing, found),
        "look": _look(before, after, pairing, found),
        "boxes": compare_boxes(before, after, pairing, found, by_text=by_text),
        "layout": compare_layout(before, after, pairing, found, by_text=by_text),
        "meaning": _meaning(before, after, pairing, found),
        "links": _links(before, after, pairing, found),
        "media": _media(before, after, found, by_text=by_text),
    }
    _moving(before, after, found, by_text=by_text)
    media = _CHARACTERS * len(before.media)
    content = shares["text"] * found.of + shares["media"] * media
    whole = found.of + media
    shares["content"] = content / whole if whole else shares["text"]
    total = sum(weight * shares[name] for name, weight in WEIGHTS.items())
    if whole and not after.runs and not after.media:
        total = 0.0  # nothing is left that could be alike
    # nothing but full agreement is a hundred
    found.alike = 100 if total > 1 - 1e-9 else min(99, max(0, int(total * 100)))
    found.share = total
    return found


def _text(before: Reading, after: Reading, pairing: Pairing, found: Comparison) -> float:
    gone = [medium.said for medium in before.media if medium.said]
    still = [medium.said for medium in after.media if medium.said]
    spoken = words_of(gone) - words_of(still)  # what a picture said, now said in words
    there, want = words_of(data for _, data in after.hidden), words_of(data for _, data in before.hidden)
    shown = want - there
    aside = words_of(data for _, data in before.spoken)
    leaked = open_now = 0
    for number, word in pairing.new:
        plain = plain_word(word)
        run = after.runs[number]
        for pool in (spoken, shown):
            if pool[plain] > 0:
                pool[plain] -= 1
                if pool is shown:
                    there[plain] += 1
                    found.add(Difference("hidden", "shown", run.key, len(word), "", word, seen=True))
                    open_now += len(word)
                break
        else:
            if run.made:
                found.add(Difference("made", "text", run.element, len(word), "", word, seen=True))
                continue
            leaked += len(word)
            was = "hidden" if aside[plain] else ""
            found.add(Difference("leaked", was, run.key, len(word), "", word, seen=True))
    lost = 0
    for number, word in pairing.lost:
        run = before.runs[number]
        if run.made:
            found.add(Difference("made", "text", run.key, len(word), word, "", seen=True))
        else:
            lost += len(word)
            found.add(Difference("text", "", run.key, len(word), word, "", seen=True))
    hidden = sum(len(word) * times for word, times in want.items())
    kept = sum(len(word) * times for word, times in (want & there).items())
    if hidden > kept:
        keys = [key for key, _ in before.hidden]
        found.add(Difference("hidden", "", keys[0] if keys else 0, hidden - kept, "", "", seen=True))
    found.kept, found.of, found.leaked = pairing.kept + kept, pairing.of + hidden, leaked
    if not found.of:
        return 0.0 if leaked else 1.0
    return max(0.0, (found.kept - leaked - 0.3 * open_now) / found.of)


def _look(before: Reading, after: Reading, pairing: Pairing, found: Comparison) -> float:
    known: dict[tuple[int, int], tuple[float, list[tuple[str, str, str]]]] = {}
    total = weight = 0.0
    for one, other, size in pairing.pairs:
        a, b = before.runs[one], after.runs[other]
        weight += size
        if a.look is b.look or a.look == b.look:
            total += size
        else:
            key = id(a.look), id(b.look)
            if key not in known:
                known[key] = _alike(a.look, b.look)
            share, told = known[key]
            total += size * share
            if b.link and not a.link:  # an address that became a link looks like one
                continue
            for what, was, now in told:
                found.add(Difference("look", what, a.key, size, was, now, seen=True))
        if a.text != b.text and a.text.casefold() == b.text.casefold():
            total -= 0.05 * size
            found.add(Difference("look", "case", a.key, size, a.text, b.text, seen=True))
    weight += sum(max(2, len(word)) for number, word in pairing.lost if before.runs[number].made)
    return total / weight if weight else 1.0


def _alike(one: Look, other: Look) -> tuple[float, list[tuple[str, str, str]]]:
    """Return how much alike two looks are, and what a person sees of the difference."""
    told: list[tuple[str, str, str]] = []
    shares: dict[str, float] = {}
    for name in ("colour", "ground"):
        a, b = getattr(one, name), getattr(other, name)
        shares[name] = nearness(a, b)
        if distance(a, b) > THRESHOLDS[name].most:
            told.append((name, written(a, "hex"), written(b, "hex")))
    shares["size"] = 1 - min(1.0, abs(log(max(one.size, 1) / max(other.size, 1))) / 0.7)
    if abs(one.size - other.size) > THRESHOLDS["size"].most * max(one.size, other.size):
        told.append(("size", f"{one.size:g}px", f"{other.size:g}px"))
    for name in ("bold", "slanted", "family", "lines", "align", "shadow"):
        a, b = getattr(one, name), getattr(other, name)
        shares[name] = float(a == b)
        if a != b:
            told.append((name, _told(name, a), _told(name, b)))
    shares["spacing"] = 1 - min(1.0, abs(one.spacing - other.spacing) / 2)
    shares["leading"] = 1 - min(1.0, abs(one.leading - other.leading) / 0.8)
    for name in ("spacing", "leading"):
        a, b = getattr(one, name), getattr(other, name)
        if abs(a - b) > THRESHOLDS[name].most:
            told.append((name, f"{a:g}", f"{b:g}"))
    return prod(1 - _FEATURES[name] * (1 - share) for name, share in shares.items()), told


_YES_OR_NO = {
    "bold": ("regular", "bold"), "slanted": ("upright", "slanted"), "shadow": ("no shadow", "a shadow"),
}  # fmt: skip


def _told(name: str, value: object) -> str:
    if isinstance(value, bool):
        return _YES_OR_NO[name][value]
    return " ".join(sorted(value)) if isinstance(value, frozenset) else str(value)


def _meaning(before: Reading, after: Reading, pairing: Pairing, found: Comparison) -> float:
    total = weight = 0.0
    for one, other, size in pairing.pairs:
        a, b = before.runs[one], after.runs[other]
        weight += size
        if a.roles == b.roles:
            total += size
            continue
        total += size * len(a.roles & b.roles) / len(a.roles | b.roles)
        for role in sorted(a.roles ^ b.roles):
            sign = role.startswith(SEEN_ROLE)
            what = "sign" if sign else "role"
            was, now = (role, "") if role in a.roles else ("", role)
            found.add(Difference("meaning", what, a.key, size, was, now, seen=sign))
    return total / weight if weight else 1.0


def _links(before: Reading, after: Reading, pairing: Pairing, found: Comparison) -> float:
    linked = {number for number, run in enumerate(before.runs) if run.link}
    kept: set[int] = set()
    for one, other, _ in pairing.pairs:
        if one in linked and _leads_there(before.runs[one].link, after.runs[other].link):
            kept.add(one)
    for number in sorted(linked - kept):
        run = before.runs[number]
        found.add(Difference("link", "", run.key, 1, run.link, "", seen=False))
    return len(kept) / len(linked) if linked else 1.0


def _leads_there(was: str, now: str) -> bool:
    return was == now or (bool(now) and (is_same_address(was, now) or (was[:1] == "#" and now.endswith(was[1:]))))


def _media(before: Reading, after: Reading, found: Comparison, *, by_text: bool) -> float:
    total = 0.0
    by_key = {medium.key: medium for medium in after.media} if not by_text else {}
    loose = [medium for medium in after.media if by_text or not medium.key]
    links = {run.link for run in after.runs if run.link}
    for medium in before.media:
        other = by_key.get(medium.key)
        if other is None:
            other = next((each for each in loose if each.kind == medium.kind and _same_source(medium, each)), None)
            if other is not None:
                loose.remove(other)
        if other is not None and other.kind == medium.kind:
            total += _extent(medium, other, found)
            continue
        total += 0.4 if medium.address and medium.address in links else 0.0
        found.add(Difference("media", medium.kind, medium.key, 1, medium.address[:200], "", seen=True))
    return total / len(before.media) if before.media else 1.0


def _same_source(one: Medium, other: Medium) -> bool:
    return one.address == other.address or (bool(one.address) and is_same_address(one.address, other.address))


def _extent(one: Medium, other: Medium, found: Comparison) -> float:
    share = 1.0
    for was, now, side in ((one.width, other.width, "width"), (one.height, other.height, "height")):
        if was == now:
            continue
        least, most = sorted((was, now))
        if most - least > THRESHOLDS["extent"].most * most:
            share -= 0.2
            found.add(Difference("media", side, one.key, 1, f"{was:g}px", f"{now:g}px", seen=True))
    if not _same_source(one, other) and one.address and other.address:
        share -= 0.2
    return share


def _moving(before: Reading, after: Reading, found: Comparison, *, by_text: bool) -> None:
    same = set(after.moving.values())
    for place, what in before.moving.items():
        if (what not in same) if by_text else (place not in after.moving):
            found.add(Difference("moving", place[1], place[0], 1, what, "", seen=False))
