"""The command line: one module a command. Only this package prints, parses arguments and exits."""

import gc

# Loading modules makes many lasting objects; the collector would look through them dozens of times and find nothing.
gc.set_threshold(500_000, 20, 50)
