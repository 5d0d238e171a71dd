"""An editor learned from what it made of a probe."""
