"""Picture files: what can be told of them without showing them."""
