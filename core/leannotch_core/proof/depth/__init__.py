"""The proof of a router's program: the cutter swept level by level, and what is left measured."""
