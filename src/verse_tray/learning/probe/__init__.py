"""What is asked of an editor, and how that is written down."""
