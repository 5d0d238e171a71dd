"""Tables."""
