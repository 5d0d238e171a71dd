"""A piece as its author wrote it: its text, its tree, and where in the text everything stands."""
