"""What the commands do: a request in, a record out. Nothing here prints, reads arguments or exits.

Requests name files and editors as the author does; records can be pickled and sent elsewhere.
"""
