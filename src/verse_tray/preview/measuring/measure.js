// Facts of every element of a piece in its page, for the rules to judge. Lengths are CSS pixels from the page's corner.
() => {
  // fields of a form, and names of pictures, hide properties of the form and of the document: asked is the prototype
  const getter = (kind, name) => { const { get } = Object.getOwnPropertyDescriptor(kind.prototype, name); return (on) => get.call(on); };
  const method = (kind, name) => { const own = kind.prototype[name]; return (on, ...given) => own.call(on, ...given); };
  const [parent, children, pageOf] = ["parentElement", "childNodes", "ownerDocument"].map((name) => getter(Node, name));
  const [nameOf, wide, high, leftEdge, topEdge, allWide, allHigh, next] = ["localName", "clientWidth", "clientHeight", "clientLeft",
    "clientTop", "scrollWidth", "scrollHeight", "nextElementSibling"].map((name) => getter(Element, name));
  const [attribute, boxOf, boxesOf, visible, matches] = ["getAttribute", "getBoundingClientRect", "getClientRects", "checkVisibility",
    "matches"].map((name) => method(Element, name));
  const [viewOf, top] = ["defaultView", "documentElement"].map((name) => getter(Document, name));
  const [find, findAll, make, walk] = ["querySelector", "querySelectorAll", "createElement", "createTreeWalker"].map((name) => method(Document, name));
  const rootOf = method(Node, "getRootNode"), tray = (element) => attribute(element, "data-tray");
  const canvas = make(document, "canvas").getContext("2d");
  const colour = (text) => {
    const found = /^rgba?\(([\d.]+), ([\d.]+), ([\d.]+)(?:, ([\d.]+))?\)$/.exec(text);
    return found ? [+found[1], +found[2], +found[3], found[4] === undefined ? 1 : +found[4]] : null;
  };
  const over = (upper, below) => {
    const alpha = upper[3] + below[3] * (1 - upper[3]);
    if (!alpha) return [0, 0, 0, 0];
    return [...[0, 1, 2].map((i) => (upper[i] * upper[3] + below[i] * below[3] * (1 - upper[3])) / alpha), alpha];
  };
  const parentOf = (element) => parent(element)
    || (rootOf(element) !== document && pageOf(element) !== document ? viewOf(pageOf(element)).frameElement : null);
  const styleOf = (element) => viewOf(pageOf(element)).getComputedStyle(element);

  // What lies behind an element's text: null where a picture does.
  function groundOf(element) {
    let ground = [0, 0, 0, 0];
    for (let each = element; each; each = parentOf(each)) {
      const style = styleOf(each);
      const own = colour(style.backgroundColor);
      if (!own) return null;
      if (style.backgroundImage !== "none" && ground[3] < 1) return null;
      ground = over(ground, own);
      if (ground[3] > 0.999) return ground;
    }
    return over(ground, [255, 255, 255, 1]);
  }
  function opacityOf(element) {
    let opacity = 1;
    for (let each = element; each; each = parentOf(each)) opacity *= +styleOf(each).opacity;
    return opacity;
  }
  const ownText = (element) => [...children(element)].filter((child) => child.nodeType === 3).map((child) => child.data).join("").trim();

  function wordsOf(cell, style) {
    canvas.font = `${style.fontStyle} ${style.fontWeight} ${style.fontSize} ${style.fontFamily}`;
    const text = cell.innerText.trim();
    // each paragraph and each line break begins a line anyway
    const full = Math.max(0, ...text.split("\n").map((line) => canvas.measureText(line).width));
    const solid = /nowrap|pre$/.test(style.whiteSpace) ? text.split("\n") : text.split(/[\s\u200b-]+/);
    return [Math.max(0, ...solid.map((word) => canvas.measureText(word).width)), full, text.length];
  }
  function linesOf(element) {
    const range = new Range();
    range.selectNodeContents(element);
    const tops = [...range.getClientRects()].filter((box) => box.width > 1).map((box) => [box.top, box.bottom]).sort((a, b) => a[0] - b[0]);
    let lines = 0, bottom = -1e9;
    for (const [start, end] of tops) {
      if (start >= bottom - 2) { lines += 1; bottom = end; } else bottom = Math.max(bottom, Math.min(end, bottom));
    }
    return lines;
  }
  function tableOf(table, number) {
    const columns = [];
    for (const row of table.rows) {
      let place = 0;
      for (const cell of row.cells) {
        if (cell.colSpan > 1 || cell.rowSpan > 1) { place += cell.colSpan; continue; }
        const style = getComputedStyle(cell);
        const inner = cell.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight);
        const [word, full, characters] = wordsOf(cell, style);
        const column = (columns[place] ||= { inner, around: cell.offsetWidth - inner, word: 0, full: 0, characters: 0, tight: 1e9, lines: 0, number: 0, size: 0 });
        column.word = Math.max(column.word, word);
        if (full >= column.full) Object.assign(column, { full, characters });
        const lines = linesOf(cell);
        if (lines && characters / lines < column.tight && characters > 12 && lines > 2) {
          Object.assign(column, { tight: characters / lines, lines, number: +cell.dataset.tray || number });
        }
        column.size = Math.max(column.size, parseFloat(style.fontSize));
        place += 1;
      }
    }
    const solid = columns.filter(Boolean);
    return { number, width: table.clientWidth, room: wide(parent(table)), columns: solid };
  }

  // How far text in a box reaches beyond its edges, where that cannot be meant: cut off, or over what comes next.
  function beyondOf(element, style, rect, fact) {
    if (high(element) < 8 || wide(element) < 8 || style.textOverflow === "ellipsis" || style.webkitLineClamp !== "none") return;
    const hides = (how) => how === "hidden" || how === "clip", shows = (how) => how === "visible";
    const down = allHigh(element) - high(element) > 3, across = allWide(element) - wide(element) > 3;
    if (!(down && (hides(style.overflowY) || shows(style.overflowY))) && !(across && hides(style.overflowX))) return;
    const right = rect.left + leftEdge(element) + wide(element), bottom = rect.top + topEdge(element) + high(element);
    const walker = walk(pageOf(element), element, 4), range = new Range();
    let far = 0, low = 0;
    for (let node = walker.nextNode(), count = 0; node && count < 500; node = walker.nextNode(), count++) {
      if (!node.data.trim() || !visible(parent(node), SHOWN)) continue;
      const own = styleOf(parent(node));
      if (own.position === "absolute" || own.position === "fixed") continue;
      range.selectNode(node);
      for (const box of range.getClientRects()) {
        if (box.right <= rect.left + 1 || box.left >= right - 1) continue;  // beside it: a slide that waits
        if (box.top < bottom || hides(style.overflowY) || shows(style.overflowY)) low = Math.max(low, box.bottom - bottom);
        if (box.top < bottom) far = Math.max(far, box.right - right);
      }
    }
    const cuts = (hides(style.overflowY) && low > 3) || (hides(style.overflowX) && far > 3);
    if (cuts) { fact.beyond = [hides(style.overflowX) ? far : 0, hides(style.overflowY) ? low : 0]; fact.cuts = true; return; }
    if (low <= 3 || !shows(style.overflowY)) return;
    let behind = null;
    for (let each = element; each && !behind && tray(each) !== "0"; each = parent(each)) {
      for (let after = next(each); after && !behind; after = next(after)) if (boxesOf(after).length) behind = after;
    }
    const under = behind && boxOf(behind);
    if (under && under.height > 1 && under.top < bottom + low - 1 && under.bottom > bottom && under.left < right && under.right > rect.left && under.top >= rect.top) fact.beyond = [0, bottom + low - under.top];
  }
  const SHOWN = { checkOpacity: true, checkVisibilityCSS: true, opacityProperty: true, visibilityProperty: true };
  const TARGETS = "a[href], button, input:not([type=hidden]), select, textarea, summary, [onclick], [role=button], [role=link]";
  const elements = [], tables = [], texts = [];
  let piece = null, box = null;

  // The boxes of the runs of text of an element: texts side by side are one run.
  function readTexts(page, element, number, style, dx, dy) {
    const view = viewOf(page);
    let run = -1, range = null, solid = false;
    const finish = () => {
      if (!range || !solid) return;
      const box = range.getBoundingClientRect();
      if (box.width < 1 || box.height < 1) return;
      texts.push({
        number, run, x: box.x + view.scrollX + dx, y: box.y + view.scrollY + dy, width: box.width, height: box.height,
        size: parseFloat(style.fontSize), family: style.fontFamily, bold: +style.fontWeight >= 600, slanted: style.fontStyle !== "normal",
      });
    };
    for (const child of children(element)) {
      if (child.nodeType !== 3) { finish(); range = null; solid = false; continue; }
      if (!range) { run += 1; range = new Range(); range.setStartBefore(child); }
      range.setEndAfter(child);
      solid ||= Boolean(child.data.trim());
    }
    finish();
  }

  function read(page, dx, dy) {
    const view = viewOf(page);
    for (const element of findAll(page, "[data-tray]")) {
      const number = +tray(element);
      const style = view.getComputedStyle(element);
      const rect = boxOf(element);
      const at = [rect.x + view.scrollX + dx, rect.y + view.scrollY + dy, rect.width, rect.height];
      if (number === 0) {
        if (!boxesOf(element).length || piece) continue;
        const left = parseFloat(style.paddingLeft) + parseFloat(style.borderLeftWidth), right = parseFloat(style.paddingRight) + parseFloat(style.borderRightWidth);
        piece = [at[0] + left, at[1], at[2] - left - right, at[3]];
        readTexts(page, element, 0, style, dx, dy);
        continue;
      }
      const name = nameOf(element), text = ownText(element), shown = visible(element, SHOWN) && style.display !== "contents";
      let right = at[0] + at[2], left = at[0], scrolls = "";
      if (text && shown) {
        readTexts(page, element, number, style, dx, dy);
        const range = new Range();
        for (const child of children(element)) {
          if (child.nodeType !== 3 || !child.data.trim() || style.overflowX !== "visible") continue;
          range.selectNode(child);
          for (const each of range.getClientRects()) right = Math.max(right, each.right + view.scrollX + dx);
        }
      }
      for (let each = parent(element); each && tray(each) !== "0" && tray(each); each = parent(each)) {
        const how = view.getComputedStyle(each).overflowX;
        if (how === "visible") continue;
        const around = boxOf(each);
        scrolls = rect.left >= around.right - 1 || rect.right <= around.left + 1 ? "beside" : how;  // a slide that waits
        break;
      }
      let inside = false;  // whether something with a size of its own is in it
      if (!rect.height || !rect.width) {
        const range = new Range();
        range.selectNodeContents(element);
        inside = [...range.getClientRects()].some((each) => each.width > 1 && each.height > 1);
      }
      const border = parseFloat(style.borderTopWidth) + parseFloat(style.borderLeftWidth) + parseFloat(style.borderBottomWidth) + parseFloat(style.borderRightWidth);
      const fact = {
        number, name, x: at[0], y: at[1], width: at[2], height: at[3], left, right, scrolls, shown, inside,
        text: text.length, display: style.display, size: parseFloat(style.fontSize), family: style.fontFamily,
        bold: +style.fontWeight >= 600,
        painted: (colour(style.backgroundColor)?.[3] ?? 1) > 0 || style.backgroundImage !== "none", bordered: border > 0 && style.borderStyle !== "none",
      };
      if (text && shown) {
        const ink = colour(style.color);
        const ground = groundOf(element);
        if (ink && ground) {
          ink[3] *= opacityOf(element);
          Object.assign(fact, { ink: over(ink, ground).slice(0, 3), ground: ground.slice(0, 3) });
        }
      }
      if (name === "img" && element.complete && element.naturalWidth && !("trayBoxed" in element.dataset)) {
        fact.natural = [element.naturalWidth, element.naturalHeight];
        fact.content = [
          element.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight),
          element.clientHeight - parseFloat(style.paddingTop) - parseFloat(style.paddingBottom),
        ];
        fact.fit = style.objectFit;
      }
      if (shown && style.display !== "inline") beyondOf(element, style, rect, fact);
      if (/^(iframe|object|embed)$/.test(name) && shown) {
        const given = element.computedStyleMap?.().get("height");
        if (given && given.unit !== "px") fact.default_height = element.clientHeight - parseFloat(style.paddingTop) - parseFloat(style.paddingBottom);
      }
      if (name === "iframe") {
        let inner = null;
        try { inner = element.contentDocument; } catch { /* a frame that nobody may look into has no facts */ }
        if (inner && top(inner)) fact.holds = [top(inner).scrollWidth - element.clientWidth, top(inner).scrollHeight - element.clientHeight];
      }
      if (matches(element, TARGETS) && shown && rect.width && rect.height) {
        const range = new Range();
        range.selectNodeContents(element);
        const all = range.getBoundingClientRect();
        fact.target = [Math.max(rect.width, all.width), Math.max(rect.height, all.height)];
        fact.sentence = style.display === "inline" && ownText(parent(element)).length > 2;
      }
      elements.push(fact);
      if (name === "table" && shown && element.rows.length) tables.push(tableOf(element, number));
    }
  }
  read(document, 0, 0);
  for (const frame of findAll(document, "iframe:not([data-tray])")) {
    const inner = frame.contentDocument;
    if (!inner || !find(inner, '[data-tray="0"]')) continue;
    const rect = frame.getBoundingClientRect();
    piece = null;
    read(inner, rect.x + scrollX, rect.y + scrollY);
    piece = [rect.x, rect.y, rect.width, rect.height];
    box = [rect.x, rect.width, rect.height, top(inner).scrollWidth, top(inner).scrollHeight];
  }
  const facts = { window: innerWidth, scrolls: top(document).scrollWidth, piece: piece || [0, 0, innerWidth, 0], box, elements, texts, tables };
  // as a text it comes through many times sooner than value by value
  return JSON.stringify(facts, (_, value) => (typeof value === "number" && !Number.isFinite(value) ? String(value) : value));
}
