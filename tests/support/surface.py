"""A browser's own editing surface, and a field to copy rich text from with real keys."""

SURFACE = """<!doctype html><textarea id=copier>x</textarea><div id=pane contenteditable></div><script>
document.addEventListener('copy', event => {
  event.clipboardData.setData('text/html', window.copied); event.preventDefault();
});
</script>"""
COPY = """sample => {
  window.copied = sample;
  document.getElementById('pane').innerHTML = '';
  const copier = document.getElementById('copier');
  copier.focus(); copier.select();
}"""

PLAIN = ["--disable-features=WebUIOmniboxPopup,WebUIOmniboxAimPopup"]
"""Options of a browser as it comes, but for what its address bar would show, which takes longest to start."""
