"""Joints of a document, read and cut: what was typed of each becomes notches, ledger rows, meetings and findings."""
