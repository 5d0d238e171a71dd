// The state of every element of a piece, to be compared before and after something is done to it.
() => {
  const found = {};
  const read = (page, dx, dy) => {
    const view = page.defaultView;
    for (const element of page.querySelectorAll("[data-tray]")) {
      const number = element.dataset.tray;
      if (number === "0") continue;
      const style = view.getComputedStyle(element), box = element.getBoundingClientRect();
      const text = [...element.childNodes].filter((child) => child.nodeType === 3).map((child) => child.data).join(" ");
      found[number] = {
        name: element.localName,
        shown: element.checkVisibility({ opacityProperty: true, visibilityProperty: true }) && box.width > 0 && box.height > 0,
        text: text.replace(/\s+/g, " ").trim(),
        source: element.localName === "img" ? element.getAttribute("src") : null,
        place: [box.x + view.scrollX + dx, box.y + view.scrollY + dy, box.width, box.height].map(Math.round),
        scrolled: [Math.round(element.scrollLeft), Math.round(element.scrollTop)],
        on: element.checked ?? element.open ?? null,
        value: element.localName === "input" || element.localName === "select" || element.localName === "textarea" ? element.value : null,
        look: Object.fromEntries(["color", "background-color", "background-image", "border-color", "outline-style", "outline-color", "box-shadow",
          "text-decoration-line", "transform", "opacity", "filter", "font-weight"].map((name) => [name, style.getPropertyValue(name)])),
      };
    }
    // what a script has added to the piece has no number
    let added = 0;
    for (const piece of page.querySelectorAll('[data-tray="0"]')) {
      for (const element of piece.querySelectorAll(":not([data-tray])")) {
        const box = element.getBoundingClientRect();
        if (box.width && box.height) found[`new${added++}`] = {
          name: element.localName, shown: true, text: element.children.length ? "" : element.textContent.trim(), source: null,
          place: [], scrolled: [], on: null, value: null, look: {},
        };
      }
    }
  };
  read(document, 0, 0);
  return found;
}
