"""A small site to practise on: editors to paste into, the pages that readers see, Micropub and feeds."""
