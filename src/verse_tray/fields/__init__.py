"""Fields: marks in a piece that stand for the values of a record."""
