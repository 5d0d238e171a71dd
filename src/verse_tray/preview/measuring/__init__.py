"""What an author would notice of a page in a browser: measured there, judged here."""
