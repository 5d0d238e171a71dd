"""CSV and JSON as rows of values."""
