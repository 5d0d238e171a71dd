"""Loads what most runs of the program load; see :mod:`support.program`."""

from importlib import import_module
from pkgutil import walk_packages

import verse_tray.cli
import verse_tray.tasks

for package in (verse_tray.cli, verse_tray.tasks):
    for module in walk_packages(package.__path__, f"{package.__name__}."):
        import_module(module.name)
