"""The core without a screen: values set by name, what follows from them, and starters of one's own."""

from .values import evaluated, sentences, with_set

__all__ = ["evaluated", "sentences", "with_set"]
