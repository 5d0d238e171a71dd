"""Links and other addresses."""
