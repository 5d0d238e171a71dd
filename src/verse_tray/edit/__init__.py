"""Editing an author's text: other values, other white space, mends; the rest of it stays byte for byte."""
