"""The root of all errors that Pindo itself raises."""


class PindoError(Exception):
    """Something that a person or a program may be told: its message says what was kept, and what to
    do. Whatever else is raised is a fault of Pindo's own.
    """
