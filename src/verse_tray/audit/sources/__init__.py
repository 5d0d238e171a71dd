"""Where the pieces of an archive come from; a kind of source a file. All of them stream."""
