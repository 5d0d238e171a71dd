// The state of every element of a piece, to be compared before and after something is done to it.
() => {
  // fields of a form, and names of pictures, hide properties of the form and of the document: asked is the prototype
  const call = (kind, name, on, ...given) => kind.prototype[name].call(on, ...given);
  const get = (kind, name, on) => Object.getOwnPropertyDescriptor(kind.prototype, name).get.call(on);
  const all = (kind, on, selector) => [...call(kind, "querySelectorAll", on, selector)];
  const attribute = (element, name) => call(Element, "getAttribute", element, name);
  const named = (element) => get(Element, "localName", element);
  const words = (element) => [...get(Node, "childNodes", element)].filter((child) => child.nodeType === 3).map((child) => child.data).join(" ");
  const LOOK = ["color", "background-color", "background-image", "border-color", "outline-style", "outline-color", "box-shadow",
    "text-decoration-line", "transform", "opacity", "filter", "font-weight"];
  const focused = get(Document, "activeElement", document);
  const found = {};
  for (const element of all(Document, document, "[data-tray]")) {
    const number = attribute(element, "data-tray");
    if (number === "0") continue;
    const style = getComputedStyle(element), box = call(Element, "getBoundingClientRect", element), name = named(element);
    const field = name === "input" || name === "select" || name === "textarea";
    found[number] = {
      name,
      shown: call(Element, "checkVisibility", element, { opacityProperty: true, visibilityProperty: true }) && box.width > 0 && box.height > 0,
      text: words(element).replace(/\s+/g, " ").trim(),
      source: name === "img" ? attribute(element, "src") : null,
      place: [box.x + scrollX, box.y + scrollY, box.width, box.height].map(Math.round),
      scrolled: [Math.round(get(Element, "scrollLeft", element)), Math.round(get(Element, "scrollTop", element))],
      on: field ? element.checked ?? null : name === "details" || name === "dialog" ? element.open : null,
      value: field ? element.value : null,
      focused: element === focused,
      look: Object.fromEntries(LOOK.map((each) => [each, style.getPropertyValue(each)])),
    };
  }
  // what a script has added to the piece has no number
  let added = 0, looked = 0;
  for (const piece of all(Document, document, '[data-tray="0"]')) {
    for (const element of call(Element, "querySelectorAll", piece, ":not([data-tray])")) {
      if (added >= 500 || ++looked > 20000) break; // more than anybody reads of
      const box = call(Element, "getBoundingClientRect", element);
      if (box.width && box.height) found[`new${added++}`] = {
        name: named(element), shown: true, text: get(Element, "childElementCount", element) ? "" : words(element).trim(), source: null,
        place: [], scrolled: [], on: null, value: null, focused: false, look: {},
      };
    }
  }
  return found;
}
