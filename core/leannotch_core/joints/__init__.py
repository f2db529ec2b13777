"""A folder a family of joint: what is typed of it, how it is cut, and what it needs to know of others."""
