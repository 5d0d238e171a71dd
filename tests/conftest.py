"""What holds for all tests."""

from __future__ import annotations

import os

from hypothesis import settings

from verse_tray.journeys.contract import Watch

Watch.on = True  # every step of every journey is watched
settings.register_profile("build", derandomize=True, deadline=None, database=None)  # the same examples every time
settings.register_profile("at-home", deadline=None)
settings.load_profile("build" if os.environ.get("CI") else "at-home")
