"""Standard things to design round: screws, cells, bearings, cards, with where their sizes are published."""
