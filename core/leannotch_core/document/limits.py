"""What a project and a drawing may come to: limits of what stays quick to work with, not of what can be cut.

All of them stand here, and the API tells them.
"""

from __future__ import annotations

# A project

#: Copies of parts, all together, and of one part.
MOST_COPIES = 5000
MOST_OF_A_PART = 500
#: Parts that one drawing brings, and shapes on one part.
MOST_BROUGHT = 1000
#: Lines and arcs of all parts, cut-outs, letters and joints together: what takes some eight seconds to work out anew.
MOST_LINES = 60_000
#: The largest project file that is opened, in bytes.
LARGEST_FILE = 8_000_000

#: Sheets of one layout.
MOST_SHEETS = 1000

# A drawing

#: Lines and arcs of one brought outline.
MOST_VERTICES = 4000
#: The largest drawing that somebody brings, and the largest that is read at all, in bytes.
LARGEST_BROUGHT = 8_000_000
LARGEST_DRAWING = 30_000_000
#: The most lines and arcs that are read of a file that somebody brings, and of one that this program wrote itself.
MOST_READ = 30_000
#: The most triangles of a mesh.
MOST_TRIANGLES = 400_000
MOST_OF_OURS = 2_000_000
