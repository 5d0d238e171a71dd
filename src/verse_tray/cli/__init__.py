"""The command line: one module a command. Only this package prints, parses arguments and exits."""
