"""Scripts of ours that bring a page to rest.

They run nothing later: in a page that may run no scripts, timers and frames of animation never come.
"""

OWN = "(name, page = document) => Object.getOwnPropertyDescriptor(Document.prototype, name).get.call(page)"
"""A function that returns what a page has under a name, also where the name of a picture or a form hides it."""

HOLD = """page => Document.prototype.getAnimations.call(page).forEach(each => {
  try { each.finish(); } catch {  // it never ends: its first moment
    try { each.pause(); each.currentTime = each.effect.getComputedTiming().delay; } catch { each.cancel(); }
  }
})"""
"""A function that ends what moves in a page, and holds at its first moment what never ends."""

_PAGES = f"""const own = {OWN};
  const frames = (page) => [...Document.prototype.querySelectorAll.call(page, "iframe")];
  const inner = (page) => frames(page).map((frame) => frame.contentDocument).filter(Boolean);
  const pages = (page) => [page, ...inner(page).flatMap(pages)];"""

THERE = f"""() => {{
  {_PAGES}
  const there = (each) => each.complete || each.loading === "lazy";
  return pages(document).every(
    (page) => own("fonts", page).status === "loaded" && [...own("images", page)].every(there));
}}"""
"""Whether the fonts and the pictures of a page, and of the frames in it, are there."""

AT_REST = f"""() => {{
  {_PAGES}
  pages(document).forEach({HOLD});
}}"""
"""Holds a page and the frames in it."""
