"""Sites from disk, and what an author names of them."""

from __future__ import annotations

import re
from collections.abc import Iterable
from pathlib import Path
from typing import NamedTuple

from verse_tray.config.settings import read_settings
from verse_tray.editors.load import Editor, load_editor
from verse_tray.model.errors import ProfileFault, SettingsError, UnknownSiteError
from verse_tray.model.inputs import read_beside
from verse_tray.model.phrasing import nearest
from verse_tray.sites.records import Page, Region, Site

STAND_INS = Path(__file__).parent / "stand_ins"


class LoadedSite:
    """A site, with the files that belong to it."""

    def __init__(self, name: str, site: Site, folder: Path, pages: dict[str, str], theme: str) -> None:
        self.name = name
        """Name by which it is called."""
        self.site = site
        """Its description."""
        self.folder = folder
        """Folder in which its files stand."""
        self.pages = pages
        """Markup of its pages by their names, as far as they have a file."""
        self.theme = theme
        """Its usual theme: CSS."""
        self._editors: dict[str, Editor] = {}

    def editor(self, name: str) -> Editor:
        """Return the editor of that name, or from a folder or file beside the site."""
        if name not in self._editors:
            beside = self.folder / name.partition(":")[0]
            own = self.folder != STAND_INS / self.name and beside.exists()
            self._editors[name] = load_editor(str(self.folder / name) if own else name)
        return self._editors[name]


class Where(NamedTuple):
    """A region of a page of a site."""

    site: LoadedSite
    page: str
    region: str

    @property
    def of_page(self) -> Page:
        """The page."""
        return self.site.site.pages[self.page]

    @property
    def of_region(self) -> Region:
        """The region."""
        return self.of_page.regions[self.region]

    @property
    def name(self) -> str:
        """What it is called."""
        return f"{self.site.name}:{self.page}:{self.region}"


def known_sites() -> list[str]:
    """Return the names of the stand-ins, in order."""
    return sorted(folder.name for folder in STAND_INS.iterdir() if (folder / "site.toml").is_file())


def load_site(name_or_path: str) -> LoadedSite:
    """Load a site by its name, or from its folder or TOML file.

    Raises:
        UnknownSiteError: no site of that name, and no such path.
        SettingsError: its description cannot be used, or it contradicts one of its editors; every fault is named.
    """
    path = _path_of(name_or_path)
    if path is None:
        near = nearest(name_or_path, known_sites())
        hint = f"Did you mean {near}? " if near else ""
        known = ", ".join(known_sites())
        raise UnknownSiteError(
            f"There is no site {name_or_path!r}, nor a folder with a site.toml. {hint}Known are: {known}."
        )
    site, text = read_settings(path, Site, "site")
    name = path.parent.name if path.name == "site.toml" else path.stem
    return _Loading(path, name or path.resolve().parent.name, site, text).loaded()


def _path_of(name: str) -> Path | None:
    if re.fullmatch(r"[a-z0-9-]{1,100}", name) and (STAND_INS / name / "site.toml").is_file():
        return STAND_INS / name / "site.toml"
    path = Path(name)
    try:
        if (path / "site.toml").is_file():
            return path / "site.toml"
        return path if path.is_file() else None
    except (OSError, ValueError):
        return None


def split_page(name: str) -> tuple[str, str]:
    """Return a site's name or path and a page's name, empty for none, of ``SITE[:PAGE]``."""
    if _path_of(name) is not None or ":" not in name:
        return name, ""
    site, _, page = name.rpartition(":")
    return site, page


def chosen_page(site: LoadedSite, page: str) -> str:
    """Return a page's name.

    Raises:
        UnknownSiteError: there is no such page, or none is named and there are several.
    """
    pages = site.site.pages
    if page in pages:
        return page
    if not page and len(pages) == 1:
        return next(iter(pages))
    if not page:
        listed = ", ".join(f"{site.name}:{each}" for each in pages)
        raise UnknownSiteError(f"{site.name} has several pages: name one of {listed}.")
    raise UnknownSiteError(f"{site.name} has no page {page!r}. {_known(page, pages)}")


def chosen_region(site: LoadedSite, page: str, region: str) -> str:
    """Return a region's name; where a page has just one, none has to be named.

    Raises:
        UnknownSiteError: there is no such region, or none is named and there are several.
    """
    regions = site.site.pages[page].regions
    if region in regions:
        return region
    if not region and len(regions) == 1:
        return next(iter(regions))
    told = "; ".join(
        f"{name} ({each.width:,} pixels wide, {len(each.items) or 'no'} item{'' if len(each.items) == 1 else 's'})"
        for name, each in regions.items()
    )
    if not region:
        raise UnknownSiteError(f"{site.name}:{page} has several regions: name one with --region: {told}.")
    near = nearest(region, regions)
    hint = f"Did you mean {near}? " if near else ""
    raise UnknownSiteError(f"{site.name}:{page} has no region {region!r}. {hint}Known are: {told}.")


def _known(name: str, known: Iterable[str]) -> str:
    near = nearest(name, list(known))
    hint = f"Did you mean {near}? " if near else ""
    return f"{hint}Known are: {', '.join(known)}."


class _Loading:
    """A site being read: its files, and whether all of it agrees."""

    def __init__(self, path: Path, name: str, site: Site, text: str) -> None:
        self._path = path
        self._site = site
        self._text = text
        self._faults: list[ProfileFault] = []
        self._made = LoadedSite(name, site, path.parent, {}, "")

    def loaded(self) -> LoadedSite:
        site, made = self._site, self._made
        if site.theme is not None:
            made.theme = self._file(site.theme, "theme")
        for name, page in site.pages.items():
            self._hold_name(name, f"pages.{name}")
            if page.page is not None:
                made.pages[name] = self._file(page.page, f"pages.{name}.page")
        if made.folder.parent != STAND_INS:  # tested: looking for what only words can be wrong about takes time
            from verse_tray.sites.contradictions import contradictions

            self._faults += contradictions(made, self._text)
        if self._faults:
            raise SettingsError(str(self._path), sorted(self._faults, key=lambda each: each.line or 0), "site")
        return made

    def _hold_name(self, name: str, key: str) -> None:
        if not re.fullmatch(r"[A-Za-z0-9][A-Za-z0-9_-]*", name):
            self._fault(key, "a page's name is written with letters, digits and hyphens")

    def _fault(self, key: str, message: str) -> None:
        from verse_tray.config.toml_text import locate

        self._faults.append(ProfileFault(key, message, *locate(self._text, key)))

    def _file(self, file: str, key: str) -> str:
        """Read a file beside the site's."""
        text, fault = read_beside(self._path, file, "site")
        if fault:
            self._fault(key, fault)
        return text or ""
