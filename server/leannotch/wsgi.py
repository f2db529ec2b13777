"""The application as a production server takes it."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "leannotch.settings")
application = get_wsgi_application()
