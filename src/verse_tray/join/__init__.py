"""Parts of a piece (HTML, CSS, JavaScript, libraries) and how they become one paste."""
