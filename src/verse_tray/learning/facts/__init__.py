"""What became of each part of what was sent."""
