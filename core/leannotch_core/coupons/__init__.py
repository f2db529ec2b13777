"""Test coupons: made, and learnt from."""
