"use strict";
const sheet = JSON.parse(document.getElementById("texts").textContent);
const place = "verse-tray-paste-sheet-" + sheet.key;

function kept() {
  try { return JSON.parse(localStorage.getItem(place)) || []; } catch { return []; }
}

function keep(ticked) {
  try { localStorage.setItem(place, JSON.stringify(ticked)); } catch { /* boxes stay ticked while the page is open */ }
}

function copy({ text, rich }) {
  let done = false;
  const put = (event) => {
    event.clipboardData.setData("text/plain", text);
    if (rich) event.clipboardData.setData("text/html", text);
    event.preventDefault();
    done = true;
  };
  document.addEventListener("copy", put);
  document.execCommand("copy");
  document.removeEventListener("copy", put);
  return done;
}

function show() {
  const boxes = [...document.querySelectorAll("[data-step]")];
  for (const box of boxes) document.getElementById("step-" + box.dataset.step).classList.toggle("ticked", box.checked);
  const count = boxes.filter((box) => box.checked).length;
  document.querySelector(".done").textContent = count ? `${count} of ${boxes.length} done.` : "";
}

for (const button of document.querySelectorAll("[data-copy]")) {
  const said = button.textContent;
  button.addEventListener("click", async () => {
    const one = sheet.texts[button.dataset.copy - 1];
    let done = copy(one);
    if (!done && !one.rich && navigator.clipboard) {
      done = await navigator.clipboard.writeText(one.text).then(() => true, () => false);
    }
    button.textContent = done ? "Copied" : "Select the text and copy it";
    button.classList.toggle("copied", done);
    if (!done) getSelection().selectAllChildren(button.closest(".text").querySelector("pre"));
    setTimeout(() => { button.textContent = said; button.classList.remove("copied"); }, 2500);
  });
}

for (const box of document.querySelectorAll("[data-step]")) {
  box.checked = kept().includes(box.dataset.step);
  box.addEventListener("change", () => {
    keep([...document.querySelectorAll("[data-step]:checked")].map((each) => each.dataset.step));
    show();
  });
}
show();
