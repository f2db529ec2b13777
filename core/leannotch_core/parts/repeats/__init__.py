"""Repeats: how one shape on a part stands in many places. A new one is a file here, and its line in ``kinds``."""
