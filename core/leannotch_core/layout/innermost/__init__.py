"""The innermost loops of the nesting, compiled to machine code."""
