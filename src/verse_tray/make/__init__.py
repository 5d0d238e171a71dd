"""Pieces built from values: readable markup, accessible as it comes, that people go on editing by hand."""
