"""What was read from a file held against what was meant: outlines, marks, order, power."""
