"""Style sheets and style attributes."""
