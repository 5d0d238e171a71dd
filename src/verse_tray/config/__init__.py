"""Files of settings: strict TOML into records, every fault at once, each with its place."""
