"""Files that others made, or as others make them; each judged by something that shares no code with what reads it."""
