"""Parts as drawn: shapes, cut-outs, marks and lettering, typed and worked out."""
