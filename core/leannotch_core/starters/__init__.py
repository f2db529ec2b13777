"""Ready designs that a few numbers drive: each makes parts, joints and named sizes, and stays live."""
