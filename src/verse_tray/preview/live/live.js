"use strict";
// Keeps the sheet up to date: only what has changed is drawn anew, and the page stays where it was scrolled to.
const banner = (text) => {
  let element = document.querySelector(".banner");
  if (!text) { element?.remove(); return; }
  if (!element) {
    element = node("div", "banner");
    element.setAttribute("role", "alert");
    document.body.prepend(element);
  }
  element.textContent = text;
};
const named = (figure) => [figure.closest("[data-row]").dataset.row, figure.dataset.side, figure.dataset.width, figure.dataset.theme].join(" ");

async function takeOver(text) {
  const next = new DOMParser().parseFromString(text, "text/html");
  const main = document.querySelector("main"), newMain = next.querySelector("main");
  const changed = [];
  const before = new Map(figures().map((figure) => [named(figure), pageOf(figure.dataset.page)]));
  const same = [...newMain.querySelectorAll("figure[data-page]")].map(named).join() === figures().map(named).join() && before.size;
  data = JSON.parse(next.getElementById("data").textContent);
  for (const selector of [".about", "nav", "h1"]) {
    const [old, fresh] = [document.querySelector(`.top ${selector}`), next.querySelector(`.top ${selector}`)];
    if (old && fresh) old.innerHTML = fresh.innerHTML;
    else if (fresh) document.querySelector(".tools").before(fresh);
    else old?.remove();
  }
  if (!same) {
    main.innerHTML = newMain.innerHTML;
    watchFigures();
  } else {
    const rows = [...newMain.querySelectorAll("article")];
    [...main.querySelectorAll("article")].forEach((row, at) => { row.querySelector("header").innerHTML = rows[at].querySelector("header").innerHTML; });
    const fresh = [...newMain.querySelectorAll("figure[data-page]")];
    figures().forEach((figure, at) => {
      const marks = JSON.stringify(wantedOf(figure).marks);
      Object.assign(figure.dataset, fresh[at].dataset);
      figure.querySelector("figcaption").textContent = fresh[at].querySelector("figcaption").textContent;
      if (pageOf(figure.dataset.page) === before.get(named(figure)) && marks === JSON.stringify(wantedOf(figure).marks)) return;
      if (drawn.has(figure)) changed.push(figure);
    });
  }
  const inSight = changed.filter((figure) => {
    const box = figure.getBoundingClientRect();
    return box.top < innerHeight && box.bottom > 0;
  });
  // the row that the author looks at, then the others in sight, then the rest: each once the one before it is seen
  const row = inSight.length ? inSight[0].closest("[data-row]") : null;
  const first = inSight.filter((figure) => row.contains(figure)), second = inSight.filter((figure) => !first.includes(figure));
  const rest = changed.filter((figure) => !inSight.includes(figure));
  const connected = (wanted) => redraw(wanted.filter((figure) => figure.isConnected));
  await redraw(first);
  setTimeout(() => connected(second), 50);
  setTimeout(() => connected(rest), 300);
  if (dialog.open && opened?.isConnected) await open(opened);
}

let shown = null;
const stream = new EventSource("changes");
stream.addEventListener("message", async (event) => {
  const { revision, error } = JSON.parse(event.data);
  banner(error);
  if (shown !== null && revision !== shown && !error) await takeOver(await (await fetch("./", { cache: "no-store" })).text());
  shown = revision;
  document.documentElement.dataset.revision = revision;
});
stream.addEventListener("error", () => banner("The preview has stopped. Start it again with verse-tray live; this page then keeps up by itself."));
