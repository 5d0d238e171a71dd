"""Scripts of ours that bring a page to rest.

They run nothing later: in a page that may run no scripts, timers and frames of animation never come.
"""

HOLD = """page => Document.prototype.getAnimations.call(page).forEach(each => {
  try { each.finish(); } catch {  // it never ends: its first moment
    try { each.pause(); each.currentTime = each.effect.getComputedTiming().delay; } catch { each.cancel(); }
  }
})"""
"""A function that ends what moves in a page, and holds at its first moment what never ends."""

_PAGES = """const frames = (page) => [...page.querySelectorAll("iframe")];
  const inner = (page) => frames(page).map((frame) => frame.contentDocument).filter(Boolean);
  const pages = (page) => [page, ...inner(page).flatMap(pages)];"""

THERE = f"""() => {{
  {_PAGES}
  return pages(document).every((page) => page.fonts.status === "loaded" && [...page.images].every(
    (each) => each.complete || each.loading === "lazy"));
}}"""
"""Whether the fonts and the pictures of a page, and of the frames in it, are there."""

AT_REST = f"""() => {{
  {_PAGES}
  pages(document).forEach({HOLD});
}}"""
"""Holds a page and the frames in it."""
