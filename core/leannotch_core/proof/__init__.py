"""The proof: a written file is read back, the beam swept along its lines, and what falls out is measured."""
