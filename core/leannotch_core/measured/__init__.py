"""What came off the machine: lengths worth measuring, what the readings say together, and what is learnt of it."""
