"""Mistakes in a piece itself. One rule a file; a rule's name is its path here, and ``table.py`` is their order."""
