"""What a project costs: what its sheets take, held against the rates that the workshop has set."""
