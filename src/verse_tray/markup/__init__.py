"""HTML text to trees with positions, and back. No policy lives here."""
