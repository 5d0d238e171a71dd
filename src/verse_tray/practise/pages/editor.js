// An editor of the practice site. Whatever was pasted is only ever put into the sandboxed pane or shown as text.
const holder = document.getElementById('editor');
const find = name => document.getElementById(name);
const pane = find('pane'), source = find('source'), told = find('told'), stored = find('stored'), shown = find('shown');
const { channel, configuration, safe } = holder.dataset;
let entry = holder.dataset.entry;
let visual = !source;
let asked = 0;
const waiting = new Map();
const ready = new Promise(done => {
  // The pane may be there before this script is, or long after it: it is called until it answers.
  const call = () => pane.contentWindow.postMessage({ id: 0 }, '*');
  const calling = setInterval(call, 100);
  addEventListener('message', event => {
    if (event.source !== pane.contentWindow) return;
    clearInterval(calling);
    done();
    waiting.get(event.data.id)?.(event.data);
    waiting.delete(event.data.id);
  });
  call();
});

function ask(message) {
  const id = ++asked;
  return ready.then(() => new Promise(done => {
    waiting.set(id, done);
    pane.contentWindow.postMessage({ id, ...message }, '*');
  }));
}

function say(text) { told.textContent = text; }

async function text() {
  const typed = visual ? (await ask({})).html : source.value;
  if (!configuration) return typed;
  const cleaned = await ask({ clean: typed, configuration: JSON.parse(configuration), safe: Boolean(safe) });
  if (cleaned.unable) throw new Error('This browser has no HTML Sanitizer API, so this editor cannot clean. Use another browser, or another editor.');
  return cleaned.html;
}

async function act(action) {
  try {
    say('…');
    const body = { entry, title: find('title').value, pane: visual || configuration ? 'visual' : 'source' };
    if (action === 'save') body.text = await text();
    const answer = await fetch(`/editors/${channel}/${action}`, {
      method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body),
    });
    const done = await answer.json();
    if (!answer.ok) return say(done.told);
    entry = done.entry;
    history.replaceState(null, '', `?entry=${entry}`);
    stored.value = done.stored;
    if (action === 'reopen') show(true);
    if (visual || action === 'reopen') await ask({ set: done.stored });
    if (source) source.value = done.stored;
    if (action === 'publish') shown.src = `/entries/${entry}`;
    const count = [...done.stored].length.toLocaleString('en');
    const what = { save: 'Saved', reopen: 'Opened again and saved', publish: 'Published' }[action];
    say(`${what}: ${count} characters are stored. The page is ${done.state === 'published' ? 'published' : 'a draft'}.`);
  } catch (error) {
    say(error.message);
  }
}

async function show(asVisual) {
  if (!source || asVisual === visual) return;
  if (asVisual) await ask({ set: source.value });
  else source.value = (await ask({})).html;
  visual = asVisual;
  pane.hidden = !visual;
  source.hidden = visual;
  find('to-source').setAttribute('aria-pressed', String(!visual));
  find('to-visual').setAttribute('aria-pressed', String(visual));
}

find('save').onclick = () => act('save');
find('reopen').onclick = () => act('reopen');
find('publish').onclick = () => act('publish');
find('to-visual').onclick = () => show(true);
if (source) find('to-source').onclick = () => show(false);
if (visual && stored.value) ask({ set: stored.value });
