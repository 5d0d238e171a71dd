"""Elements, attributes, references, leftovers."""
