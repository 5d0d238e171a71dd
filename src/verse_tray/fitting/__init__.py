"""Rewriting a piece so that more of it survives an editor: strategies, and the search for those that help."""
