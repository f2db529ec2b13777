"""From loose lines to closed outlines: doubles, ends that nearly meet, shared sides, and chords that stood for arcs."""
