"""Trays: folders of pieces with all that belongs to them, and what is remembered of them."""
