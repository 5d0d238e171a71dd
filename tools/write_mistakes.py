"""Write the page of all rules about mistakes: ``python tools/write_mistakes.py docs/mistakes.md``."""

from __future__ import annotations

import sys
from pathlib import Path

from verse_tray.reports.rule_text import rules_page

if __name__ == "__main__":
    Path(sys.argv[1]).write_text(rules_page(), "utf-8")
