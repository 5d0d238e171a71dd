"use strict";
// Draws the views of a sheet, as they come into sight, and opens one large.
let data = JSON.parse(document.getElementById("data").textContent);
const MARK = "<!-- piece -->";
const escaped = (text) => text.replace(/&/g, "&amp;").replace(/"/g, "&quot;").replace(/</g, "&lt;").replace(/>/g, "&gt;");
const node = (name, className, text) => Object.assign(document.createElement(name), { className: className || "", textContent: text || "" });

const pieceOf = (number) => data.pieces[data.pages[number][1]].replace(/tray-picture:(\d+):/g, (_, picture) => data.pictures[picture]);
const frameOf = (number) => data.frames[data.pages[number][0]];
const pageOf = (number) => frameOf(number).split(MARK).join(data.pages[number][2] ? escaped(pieceOf(number)) : pieceOf(number));

// The places of the piece in a page that is shown, if nothing but the piece differs from the page that is wanted.
function placesIn(frame, number) {
  if (!frame?.contentDocument || frame.trayFrame !== frameOf(number)) return [];
  const boxed = data.pages[number][2], page = frame.contentDocument;
  const inner = boxed ? allIn(page, "iframe").map((each) => each.contentDocument) : [page];
  return inner.flatMap((each) => (each ? allIn(each, '[data-tray="0"]') : []));
}

// Give views the size of their pages, and lay the marks over them: all that is read first, then all that is written.
function fit(shown) {
  for (const each of shown) {
    each.tall = 900;
    each.page = null;
    try { each.page = each.frame.contentDocument; } catch { /* a browser that lets nobody look in: a fixed height */ }
    if (!each.wanted.scale) each.view.style.width = "";
    each.frame.style.height = "100px";  // a page is never lower than its window: it is measured in a low one
  }
  for (const each of shown) {
    each.scale = each.wanted.scale || Math.min(1, each.view.clientWidth / each.wanted.width);
    if (each.page) each.tall = Math.max(...["documentElement", "body"].map((name) => own(Document, name, each.page)?.scrollHeight ?? 0));
  }
  for (const { view, frame, wanted, cap, scale, tall } of shown) {
    view.style.width = `${wanted.width * scale}px`;
    frame.style.transform = `scale(${scale})`;
    frame.style.height = `${tall}px`;
    const height = Math.ceil(tall * scale);
    view.style.height = `${Math.min(height, cap)}px`;
    view.classList.toggle("cut", height > cap);
  }
  for (const each of shown) each.boxes = each.page ? boxesOver(each.page, each.wanted.marks, each.wanted.heat) : [];
  for (const { view, scale, boxes } of shown) drawOverlay(view, scale, boxes);
}

// Show a page in a view; resolves when it is laid out and marked.
function draw(view, wanted, cap) {
  return new Promise((resolve) => {
    const old = view.querySelector("iframe");
    const frame = document.createElement("iframe");
    frame.setAttribute("sandbox", "allow-same-origin");  // no scripts: this page may look in, nothing in it can act
    frame.title = wanted.title;
    if (!wanted.large) frame.tabIndex = -1;
    frame.trayFrame = frameOf(wanted.page);
    frame.style.width = `${wanted.width}px`;
    if (old) frame.style.visibility = "hidden";
    frame.addEventListener("load", () => {
      fit([{ view, frame, wanted, cap }]);
      old?.remove();
      frame.style.visibility = "";
      resolve(frame);
    }, { once: true });
    frame.srcdoc = pageOf(wanted.page);
    view.prepend(frame);
  });
}

function wantedOf(figure) {
  const { page, width, marks, heat } = figure.dataset;
  return {
    page: +page, width: +width, marks: data.marks[marks] || [], heat: (heat && data.heats[heat]) || [],
    title: figure.querySelector("button").getAttribute("aria-label").replace("Open larger: ", ""),
  };
}

const drawn = new WeakMap();
const capOf = (figure) => parseFloat(getComputedStyle(figure).getPropertyValue("--cap")) || 520;
function drawFigure(figure) {
  if (!drawn.has(figure)) drawn.set(figure, draw(figure.querySelector(".view"), wantedOf(figure), capOf(figure)));
  return drawn.get(figure);
}
// Draw figures anew: in their pages where nothing but the piece differs, else from the start.
function redraw(wanted) {
  const inPlace = [], cap = wanted.length ? capOf(wanted[0]) : 0;
  const waiting = wanted.map((figure) => {
    const view = figure.querySelector(".view"), frame = view.querySelector("iframe");
    const places = placesIn(frame, figure.dataset.page);
    drawn.delete(figure);
    if (!places.length) return drawFigure(figure);
    for (const place of places) place.innerHTML = pieceOf(figure.dataset.page);
    inPlace.push({ view, frame, wanted: wantedOf(figure), cap });
    drawn.set(figure, Promise.resolve(frame));
    return frame;
  });
  fit(inPlace);
  return Promise.all(waiting);
}

const watcher = new IntersectionObserver((entries) => {
  for (const entry of entries) if (entry.isIntersecting) drawFigure(entry.target);
}, { rootMargin: "600px" });
const figures = () => [...document.querySelectorAll("figure[data-page]")];
function watchFigures() {
  document.body.classList.toggle("has-heat", figures().some((figure) => figure.dataset.heat));
  for (const figure of figures()) watcher.observe(figure);
}
function drawAnew() {
  for (const figure of figures()) { drawn.delete(figure); watcher.unobserve(figure); watcher.observe(figure); }
}
// Ends what moves in a page; what never ends is held at its first moment.
function hold(page) {
  for (const each of Document.prototype.getAnimations.call(page)) {
    try { each.finish(); } catch { try { each.pause(); each.currentTime = each.effect.getComputedTiming().delay; } catch { each.cancel(); } }
  }
  for (const frame of allIn(page, "iframe")) if (frame.contentDocument) hold(frame.contentDocument);
}
// Draws every view, for a picture or for print: at rest, and with the marks where things are then.
window.drawAll = async () => {
  await Promise.all(figures().map(drawFigure));
  const shown = figures().map((figure) => {
    const view = figure.querySelector(".view");
    return { view, frame: view.querySelector("iframe"), wanted: wantedOf(figure), cap: capOf(figure) };
  });
  for (const { frame } of shown) if (frame?.contentDocument) hold(frame.contentDocument);
  fit(shown.filter(({ frame }) => frame));
};
addEventListener("beforeprint", () => window.drawAll());
let widthNow = innerWidth;
addEventListener("resize", () => { if (innerWidth !== widthNow) { widthNow = innerWidth; drawAnew(); } });

document.querySelector(".tools").addEventListener("change", (event) => {
  const { name, checked } = event.target;
  const classes = document.body.classList;
  if (name === "marks") classes.toggle("no-marks", !checked);
  if (name === "heat") classes.toggle("with-heat", checked);
  if (name === "large") { classes.toggle("large-views", checked); drawAnew(); }
});

// The large view.
const dialog = document.getElementById("large");
const holder = dialog.querySelector(".holder"), details = dialog.querySelector(".details"), choices = dialog.querySelector(".choices");
let opened = null;

function listOf(findings) {
  const list = node("ul", "worst");
  for (const [severity, stage, message, places, count] of findings) {
    const item = node("li", severity);
    for (const [line, column, about] of places) {
      if (line === null) continue;
      const place = node(about === null ? "code" : "button", "place", `${line}:${column}`);
      if (about !== null) place.dataset.about = about;
      item.append(place, " ");
    }
    item.append(message, " ", node("code", "", count > places.length ? `${stage}, ${count} times` : stage));
    list.append(item);
  }
  return list;
}
function linesOf(title, lines) {
  const grid = node("div", "lines");
  lines.forEach(([sign, text], number) => {
    const line = node("span", sign ? "flagged" : "", text);
    grid.append(node("i", "", number + 1), node("b", "", sign), line);
  });
  return [node("h3", "", title), grid];
}
async function open(figure) {
  opened = figure;
  const row = figure.closest("[data-row]"), told = data.rows?.[row.dataset.row];
  dialog.querySelector("h2").textContent = told ? told.title : row.querySelector("h2").textContent;
  choices.replaceChildren(...[...row.querySelectorAll("figure[data-page]")].map((each) => {
    const button = node("button", "", wantedOf(each).title.split(", ").slice(1).join(", ") + (row.querySelectorAll(".sides").length > 1 ? `, ${each.dataset.theme}` : ""));
    button.setAttribute("aria-pressed", each === figure);
    button.addEventListener("click", () => open(each));
    return button;
  }));
  details.replaceChildren();
  if (told) {
    const signs = { error: "!", warning: "~", note: "·" };
    details.append(node("h3", "", "What happens to it"), listOf(told.findings));
    if (told.more) details.append(node("p", "", `and ${told.more} more`));
    details.append(...linesOf((data.names || ["As written"])[0], told.written.map((text, at) => [signs[told.lines[at + 1]] || "", text])));
    details.append(...linesOf((data.names || ["", "As published"])[1], told.published.map(([same, text]) => [same ? "" : "+", text])));
  }
  if (!dialog.open) dialog.showModal();
  const wanted = wantedOf(figure), view = node("div", "view");
  const room = holder.clientWidth - 30;
  wanted.scale = Math.min(1, room / wanted.width);
  wanted.large = true;
  holder.replaceChildren(view);
  await draw(view, wanted, 1e6);
}
function point(number) {
  const view = holder.querySelector(".view"), frame = view?.querySelector("iframe");
  if (!frame?.contentDocument) return;
  view.querySelectorAll(".asked").forEach((each) => each.remove());
  for (const each of numbered(frame.contentDocument, number)) {
    const box = boxOf(each, null);
    if (box) lay(view.querySelector(".overlay"), box, view.clientWidth / +opened.dataset.width, "mark asked").scrollIntoView({ block: "center" });
  }
}
document.addEventListener("click", (event) => {
  const button = event.target.closest(".view button");
  if (button) open(button.closest("figure"));
  const item = event.target.closest(".details [data-about]");
  if (item) point(item.dataset.about);
  if (event.target.closest(".close")) dialog.close();
});
dialog.addEventListener("keydown", (event) => {
  const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
  if (!step || details.contains(event.target)) return;
  const all = [...opened.closest("[data-row]").querySelectorAll("figure[data-page]")];
  open(all[(all.indexOf(opened) + step + all.length) % all.length]);
  event.preventDefault();
});
dialog.addEventListener("close", () => { opened?.querySelector("button").focus(); holder.replaceChildren(); });
watchFigures();
