"""Pages that show a piece: in its site's frame and theme, and with nothing in them that could reach out."""
