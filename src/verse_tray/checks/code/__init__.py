"""Code that is not where it belongs, or not what browsers read."""
