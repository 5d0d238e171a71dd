"""Placing: which part of a piece goes where on a site, in which order, and what comes of it; pieces in templates."""
