#!/usr/bin/env python3
"""Django's command line for Lean Notch."""

import os
import sys
from pathlib import Path

if __name__ == "__main__":
    root = Path(__file__).resolve().parents[1]
    sys.path[:0] = [str(root / "core"), str(root / "server")]
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "leannotch.settings")
    os.environ.setdefault("NOTCH_LOG", "-".join(word for word in sys.argv[1:3] if word.isalpha()) or "commands")
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)
