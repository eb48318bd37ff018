"""Entry point for the web server. Warms the engine, so that the first page is no slower."""

import os

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bathys_web.config.settings")

from django.core.wsgi import get_wsgi_application

application = get_wsgi_application()

from bathys_web.plans.starters import warm_engine  # noqa: E402 - needs the apps to be ready

warm_engine()
