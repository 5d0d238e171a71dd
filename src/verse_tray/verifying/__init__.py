"""What an editor stored and what the live page shows, held against what was sent and what was predicted."""
