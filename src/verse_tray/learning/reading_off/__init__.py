"""Keys of a profile read off from facts: a first guess, which is then held against what came back."""
