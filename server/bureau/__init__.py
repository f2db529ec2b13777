"""A simulated cutting service that stands beside the workshop: it knows files, and nothing of projects."""
