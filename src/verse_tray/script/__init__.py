"""Scripts of pieces: read, never run."""
