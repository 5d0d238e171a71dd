"""What an audit found as a page, with a heat map and the sizes against the limits."""
