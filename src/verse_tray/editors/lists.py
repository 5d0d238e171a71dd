"""A profile's lists, made ready for looking names up."""

from typing import Literal

from verse_tray.editors.filters import (
    HTML_NAMESPACE,
    MATHML_NAMESPACE,
    SVG_NAMESPACE,
    Element,
    ElementName,
    Filter,
)

Action = Literal["keep", "drop", "unwrap", "escape", "empty"]

_SHORT = {HTML_NAMESPACE: "html", SVG_NAMESPACE: "svg", MATHML_NAMESPACE: "mathml", None: ""}


def _name(element: Element) -> tuple[str, str]:
    if isinstance(element, str):
        return "", element
    return _SHORT[element.namespace], element.name


class Lists:
    """Answers what becomes of an element or an attribute."""

    def __init__(self, record: Filter) -> None:
        self.record = record
        """The stage's record."""
        self._decided: dict[tuple[str, str], Action] = {}
        listed: list[tuple[Action, tuple[Element, ...]]] = [
            ("drop", record.remove_elements),
            ("keep", record.elements or ()),
            ("escape", record.escape_elements),
            ("unwrap", record.replace_with_children_elements),
            ("empty", record.empty_elements),
        ]
        for action, elements in listed:
            for element in elements:
                self._decided[_name(element)] = action
        self._other: Action = "keep" if record.elements is None else record.other_elements
        self._own = {
            _name(e): (None if e.attributes is None else frozenset(e.attributes), frozenset(e.remove_attributes))
            for e in record.elements or ()
            if isinstance(e, ElementName) and (e.attributes is not None or e.remove_attributes)
        }
        self._attributes = None if record.attributes is None else frozenset(record.attributes)
        self._removed = frozenset(record.remove_attributes)
        self._fronts = tuple(each[:-1] for each in record.attributes or () if each.endswith("*"))
        self._removed_fronts = tuple(each[:-1] for each in record.remove_attributes if each.endswith("*"))
        size, sandbox = record.frame_size, record.frame_sandbox
        self._given = {
            *([("script", "type")] if record.scripts == "neutralise" else []),
            *([("iframe", "sandbox")] if sandbox is not None else []),
            *([("iframe", "width")] if size.width is not None else []),
            *([("iframe", "height")] if size.height is not None else []),
        }  # what the editor itself writes there stays
        self._causes: dict[tuple[str, str], dict[str, str | None]] = {}
        self._actions: dict[tuple[str, str], Action] = {}
        self.kept_html: set[str] = set()
        """HTML elements that were asked for and are kept."""
        self.changes_elements = bool(self._decided) or self._other != "keep"
        """Whether any element can be touched at all."""
        self.changes_attributes = (
            self._attributes is not None or bool(self._removed) or bool(self._own) or not record.event_handlers
        )
        """Whether any attribute can be touched at all."""

    def element(self, namespace: str, name: str) -> Action:
        """Return what becomes of an element; ``namespace`` is ``html``, ``svg`` or ``mathml``."""
        action = self._actions.get((namespace, name))
        if action is None:
            decided = self._decided.get((namespace, name)) or self._decided.get(("", name))
            action = self._actions[namespace, name] = decided or self._other
            if action == "keep" and namespace == "html":
                self.kept_html.add(name)
        return action

    def listed(self, namespace: str, name: str) -> bool:
        """Tell whether an element's name stands in one of the lists."""
        return (namespace, name) in self._decided or ("", name) in self._decided

    def attribute_causes(self, namespace: str, element: str) -> dict[str, str | None]:
        """Return the causes of an element's attributes as far as they were asked for; ask for others one by one."""
        found = self._causes.get((namespace, element))
        if found is None:
            found = self._causes[namespace, element] = {}
        return found

    def attribute_cause(self, namespace: str, element: str, name: str) -> str | None:
        """Return why an attribute goes, or None when it stays.

        The causes: ``handler``, ``element`` (the element's own list), ``list`` (the global one).
        """
        causes = self.attribute_causes(namespace, element)
        if name not in causes:
            causes[name] = self._cause(namespace, element, name)
        return causes[name]

    def _cause(self, namespace: str, element: str, name: str) -> str | None:
        """Decide as the HTML Sanitizer API does ("sanitize core", the attributes of a child)."""
        if (element, name) in self._given:
            return None
        if not self.record.event_handlers and is_event_handler(name):
            return "handler"
        own, own_removed = self._own.get((namespace, element)) or self._own.get(("", element)) or (None, frozenset())
        if name in own_removed:
            return "element"
        if self._attributes is not None:
            if name in self._attributes or (own is not None and name in own):
                return None
            if (self.record.data_attributes and name.startswith("data-")) or name.startswith(self._fronts):
                return None
            return "list"
        if own is not None and name not in own:
            return "element"
        return "list" if name in self._removed or name.startswith(self._removed_fronts) else None


def is_event_handler(name: str) -> bool:
    """Tell whether an attribute is an event handler: ``on`` and a name in lower-case letters."""
    return len(name) > 2 and name.startswith("on") and name.isalpha()
