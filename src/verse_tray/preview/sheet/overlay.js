"use strict";
// What lies over a view: marks, and how alike its elements look. Measured in the view's own page.
const SIGNS = { gone: "−", changed: "≠", new: "+", leaked: "!" };

// Fields of a form, and names of pictures, hide properties of the form and of the document: asked is the prototype.
const own = (kind, name, on) => Object.getOwnPropertyDescriptor(kind.prototype, name).get.call(on);
const allIn = (page, selector) => [...Document.prototype.querySelectorAll.call(page, selector)];

// The elements of a page with that number, with the offset of the frame that they stand in. 0 is the whole piece.
function numbered(page, number) {
  const found = allIn(page, `[data-tray="${number}"]`).map((element) => ({ element, x: 0, y: 0 }));
  for (const frame of allIn(page, "iframe")) {
    let inner = null;
    try { inner = frame.contentDocument; } catch { continue; }
    if (!inner || !allIn(inner, '[data-tray="0"]').length) continue;
    const box = frame.getBoundingClientRect();
    for (const each of allIn(inner, `[data-tray="${number}"]`)) {
      found.push({ element: each, x: box.left, y: box.top, most: { right: box.right, bottom: box.bottom } });
    }
  }
  return found;
}

// The box of an element, or of one run of text in it; null when it is not shown.
function boxOf({ element, x, y, most }, run) {
  let box;
  if (run === null) {
    box = Element.prototype.getBoundingClientRect.call(element);
  } else {
    let count = -1, within = false;
    const range = new Range();
    let seen = false;
    for (const child of own(Node, "childNodes", element)) {
      if (child.nodeType !== 3) { within = false; continue; }
      if (!within) count += 1;
      within = true;
      if (count === run) {
        if (!seen) range.setStartBefore(child);
        range.setEndAfter(child);
        seen = true;
      }
    }
    if (!seen) return null;
    box = range.getBoundingClientRect();
  }
  if (!box.width && !box.height) return null;
  const view = own(Document, "defaultView", own(Node, "ownerDocument", element));
  const shown = { x: box.left + view.scrollX + x, y: box.top + view.scrollY + y, width: box.width, height: box.height };
  if (most) {
    shown.width = Math.min(shown.width, most.right - shown.x);
    shown.height = Math.min(shown.height, most.bottom - shown.y);
    if (shown.width <= 0 || shown.height <= 0) return null;
  }
  return shown;
}

function lay(overlay, box, scale, className) {
  const element = document.createElement("div");
  element.className = className;
  Object.assign(element.style, {
    left: `${box.x * scale}px`, top: `${box.y * scale}px`,
    width: `${Math.max(4, box.width * scale)}px`, height: `${Math.max(4, box.height * scale)}px`,
  });
  overlay.append(element);
  return element;
}

// What is to lie over a page, as it is laid out now. Reading first and writing later spares many a layout.
function boxesOver(page, marks, heat) {
  const found = [];
  for (const [number, run, kind, said] of marks) {
    for (const each of numbered(page, number)) {
      const box = boxOf(each, run);
      if (box) found.push({ box, kind, said });
    }
  }
  for (const [number, score] of heat) {
    if (score > 0.985) continue;
    for (const each of numbered(page, number)) {
      const box = boxOf(each, null);
      if (box) found.push({ box, score, holds: Boolean(each.element.querySelector("[data-tray]")) });
    }
  }
  return found;
}

function drawOverlay(view, scale, boxes) {
  view.querySelector(".overlay")?.remove();
  const overlay = document.createElement("div");
  overlay.className = "overlay";
  for (const { box, kind, said, score, holds } of boxes) {
    if (kind) {
      const mark = lay(overlay, box, scale, `mark ${kind}`);
      if (said) mark.title = said;
      if (SIGNS[kind] && box.width * scale > 16) mark.dataset.sign = SIGNS[kind];
      continue;
    }
    const element = lay(overlay, box, scale, "heat");
    const tint = `rgb(176 16 110 / ${Math.min(0.75, 0.12 + (1 - score) * 0.65)})`;
    // what holds others is told by its edge, so that theirs can be seen
    element.style[holds ? "boxShadow" : "background"] = holds ? `inset 0 0 0 3px ${tint}` : tint;
    if (box.width * scale > 26 && box.height * scale > 11) {
      const label = document.createElement("b");
      label.textContent = `${Math.floor(score * 100)}`;
      element.append(label);
    }
  }
  view.append(overlay);
}
