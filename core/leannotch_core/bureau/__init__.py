"""A cutting service: what it reads in a file, what it can make of it, and what that costs. It knows no projects.

All of its catalogue is invented.
"""
