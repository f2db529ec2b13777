"""Sheets that makers hand in: the checks that an operator makes, and several of them laid together on one sheet."""
