// The visual pane: a surface that is written to and read by the page around it, and that cleans where a browser can.
const pane = document.getElementById('pane');
addEventListener('message', event => {
  if (event.source !== parent) return;
  const { id, set, clean, configuration, safe } = event.data;
  const answer = { id };
  if (typeof set === 'string') pane.innerHTML = set;
  if (typeof clean === 'string') {
    const holder = document.createElement('body');
    if (typeof holder.setHTML !== 'function') {
      answer.unable = true;
    } else {
      try {
        if (safe) holder.setHTML(clean, { sanitizer: configuration });
        else holder.setHTMLUnsafe(clean, { sanitizer: configuration });
        answer.html = holder.innerHTML;
      } catch (error) {
        answer.unable = true;
      }
    }
  } else {
    answer.html = pane.innerHTML;
  }
  parent.postMessage(answer, '*');
});
