"""Lean Notch's rules and computation: from a maker's intent to a proved cut file.

Pure Python with no screen, no web and no database. Millimetres and degrees everywhere; a point is a
complex number, x to the right and y up.
"""

import logging

# Who calls says where it is logged; a command without that prints its sentence alone.
logging.getLogger(__name__).addHandler(logging.NullHandler())
