"""What a project looks like, as SVG: its things put together and seen from in front, or its parts laid flat."""
