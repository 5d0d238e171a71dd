"""Pages served to this machine only."""
