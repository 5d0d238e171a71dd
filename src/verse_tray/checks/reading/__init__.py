"""What came up while the piece was read."""
