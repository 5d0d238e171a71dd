"""Limits of size: of the text, and of what the tree holds."""
