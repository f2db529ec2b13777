"""Judges that share nothing with what they judge."""
