"""The only part that talks to other machines: bounded requests, tokens, Micropub, pages."""
