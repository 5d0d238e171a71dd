"""``verse-tray check --explain``."""

from __future__ import annotations


def explain_rule(name: str) -> None:
    """Explain a rule, or list all of them for ``all``."""
    from verse_tray.checks import RULES, rule
    from verse_tray.cli.files import console, show
    from verse_tray.reports.rule_text import rule_list, rule_text

    screen = console()
    show(screen, rule_list(RULES) if name == "all" else rule_text(name, rule(name)))
