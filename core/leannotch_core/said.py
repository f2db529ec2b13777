"""What is refused with a sentence: the one thing that all refusals are."""


class Said(ValueError):  # noqa: N818 - it is a statement, and read as one
    """Something that is not done, or cannot be; the message is a sentence to show, with the number and the mend."""
