"""The kernel: closed loops of straight and circular segments that know where they came from."""
