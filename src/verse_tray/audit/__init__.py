"""A whole archive held against editors: where its pieces come from, what is kept of each, what is told of all."""
