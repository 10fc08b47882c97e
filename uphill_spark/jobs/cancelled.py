"""What ends a piece of work that nobody wants any longer."""


class Cancelled(Exception):
    """Nobody wants it any longer."""
