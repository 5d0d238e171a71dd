"""Growth of every command on repetition: ``python bench/growth.py [--kinds K,...] [--commands C,...] [--sizes N,...]``.

Each kind of repetition goes through each command in three sizes, each ten times the one before. Told are the processor
time less that for a piece of one word, and the peak of memory, of the process without its browser; marked is what grows
faster than asked (twelve times for ten times the size) or needs more than asked (400 MB at 200 KB, 1.2 GB at 2 MB).
"""

from __future__ import annotations

import argparse
import os
import resource
import subprocess
import sys
import tempfile
from contextlib import suppress
from pathlib import Path

MARKUP = {
    "text": "The pools fill twice a day. ",
    "nested": "<div><p>x</div>",
    "table": "<table><tr><td>a<td>b</table>",
    "inline": '<p style="color:red;margin:0 1px">x</p>',
    "script": "<script>var a = 1;</script>",
    "data": '<img src="data:image/gif;base64,R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7" alt="x">',
    "entities": "&amp;&nbsp;&copy;&#233;",
    "unclosed": "<b><i><p>x",
    "open": "<div>",
    "drawing": "<svg></a>",
    "blank-lines": "\n",
    "letters": "x",
    "comment": "<!--",
    "address": "url(",
    "call": "x(",
    "return": "return (",
    "marks": "{{a}} ",
    "brackets": "[[",
    "references": "&amp;[[b]]",
    "lines": "\n&",
    "ampersand": "&",
    "less": "<",
    "quotes": "\"'",
    "spaces": " ",
}
"""Kinds that are repeated as they are; ``rules`` and ``line`` are made otherwise."""
COMMANDS = {
    "check": ["check", "FILE", "--fail-on", "never"],
    "trace": ["trace", "FILE", "--editor", "article"],
    "neaten": ["neaten", "FILE"],
    "compact": ["neaten", "FILE", "--compact"],
    "adjust": ["adjust", "FILE"],
    "pictures": ["pictures", "FILE"],
    "join": ["join", "FILE"],
    "fill": ["fill", "FILE", "--set", "a=b"],
    "fix": ["check", "FILE", "--fix"],
    "preview": ["preview", "FILE", "-o", "OUT"],
    "text": ["preview", "FILE", "--text"],
    "make-text": ["make", "text", "FILE"],
    "make-code": ["make", "code", "FILE"],
}
MOST_GROWTH = 12
MOST_MEMORY = {200_000: 400, 2_000_000: 1_200}


def piece(kind: str, size: int) -> str:
    """Return a piece of a kind, about ``size`` characters long."""
    if kind == "rules":
        count = size // 32
        rules = "\n".join(f".c{number} {{ color: #123456; }}" for number in range(count))
        return f"<style>{rules}</style><p class=c1>x</p>"
    if kind == "line":
        return "<p>" + "word " * (size // 5) + "</p>"
    return MARKUP[kind] * (size // len(MARKUP[kind]))


def cost(command: list[str], timeout: float) -> tuple[float, float, int]:
    """Return processor time in seconds, peak memory in MB and exit code of a command."""
    with subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL) as process:
        with suppress(ProcessLookupError):  # it has ended already
            resource.prlimit(process.pid, resource.RLIMIT_CPU, (int(timeout), int(timeout)))
        _, status, used = os.wait4(process.pid, 0)
        process.returncode = os.waitstatus_to_exitcode(status)
    return used.ru_utime + used.ru_stime, used.ru_maxrss / 1024, process.returncode


def main() -> None:
    """Run the whole table, or a part of it."""
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    kinds = [*MARKUP, "rules", "line"]
    parser.add_argument("--kinds", default=",".join(kinds))
    parser.add_argument("--commands", default=",".join(COMMANDS))
    parser.add_argument("--sizes", default="2000,20000,200000,2000000")
    parser.add_argument("--timeout", type=float, default=120)
    asked = parser.parse_args()
    sizes = [int(size) for size in asked.sizes.split(",")]
    with tempfile.TemporaryDirectory() as folder:
        file, out = Path(folder) / "piece.html", Path(folder) / "out.html"
        program = [sys.executable, "-m", "verse_tray"]
        for name in asked.commands.split(","):
            words = [str({"FILE": file, "OUT": out}.get(word, word)) for word in COMMANDS[name]]
            file.write_text("<p>x</p>")
            bare = min(cost([*program, *words], asked.timeout)[0] for _ in range(3))
            for kind in asked.kinds.split(","):
                before: tuple[float, int] | None = None
                row = []
                for size in sizes:
                    file.write_text(piece(kind, size), "utf-8")
                    seconds, memory, code = cost([*program, *words], asked.timeout)
                    own = max(seconds - bare, 0.02)
                    wrong = "" if code in (0, 1, 2) else f" exit {code}!"
                    if before is not None and own > 0.3 and own / before[0] > MOST_GROWTH * size / before[1] / 10:
                        wrong += f" x{own / before[0]:.0f}!"
                    if memory > MOST_MEMORY.get(size, 10_000):
                        wrong += " memory!"
                    row.append(f"{own:7.2f} s {memory:5.0f} MB{wrong}")
                    before = own, size
                    if code < 0:
                        break
                print(f"{name:10} {kind:12} {'  '.join(row)}", flush=True)


if __name__ == "__main__":
    main()
