"""What is known before anything is drawn: stocks, beds and machines in mm, what was read, and what is told of it."""
