"""Machines that ship, both invented: a laser and a router, each a profile as anybody would write one."""
