"""What holds for all tests."""

from __future__ import annotations

import os
from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING

import pytest
from hypothesis import settings
from hypothesis.internal.conjecture import providers

from support.program import PIECE
from support.surface import PLAIN
from verse_tray.journeys.contract import Watch

if TYPE_CHECKING:
    from playwright.sync_api import Browser

Watch.on = True  # every step of every journey is watched
settings.register_profile("build", derandomize=True, deadline=None, database=None)  # the same examples every time
settings.register_profile("at-home", deadline=None)
settings.load_profile("build" if os.environ.get("CI") else "at-home")
# Nothing is taken from the code that is loaded: what that is depends on the tests before, and so would the examples.
providers._get_local_constants = lambda: providers._local_constants


@pytest.hookimpl(trylast=True)  # what is left out is out
def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    """Have each process begin with some of the tests that take long, so that none is left with one at the end."""
    count = getattr(config, "workerinput", {}).get("workercount", 1)
    long = [each for each in items if each.get_closest_marker("long")]
    others = [each for each in items if not each.get_closest_marker("long")]
    size = -(-len(others) // count)
    shares = [[*long[at::count], *others[at * size : (at + 1) * size]] for at in range(count)]
    items[:] = [each for share in shares for each in share]


@pytest.fixture
def unwatched(monkeypatch: pytest.MonkeyPatch) -> None:
    """Let journeys run unwatched, where there are thousands of them: the steps are watched in tests of their own."""
    monkeypatch.setattr(Watch, "on", False)


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """Return a folder of its own for a test, with a piece in it."""
    (tmp_path / "piece.html").write_text(PIECE, "utf-8")
    return tmp_path


@pytest.fixture(scope="module")
def browser() -> Iterator[Browser]:
    """Start a browser for the tests of a module, each of which opens tabs of its own."""
    from playwright.sync_api import sync_playwright

    from verse_tray.preview.browser.find import find_browser

    with sync_playwright() as driver:
        started = driver.chromium.launch(executable_path=find_browser(), args=PLAIN)
        yield started
        started.close()
