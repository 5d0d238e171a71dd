"""A piece as readers get it, in the terminal."""

from verse_tray.reports.reading.readings import readings

__all__ = ["readings"]
