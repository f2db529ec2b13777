"""Files that were made or spoiled to break what reads them, and the places of the server that take files."""
