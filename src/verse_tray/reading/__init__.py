"""What readers see of a page, told without a browser, and two such readings compared."""
