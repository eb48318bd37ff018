"""Entry point for the web server. Warms the engine, so that the first page is no slower."""

import gc
import os

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bathys_web.config.settings")

from django.core.wsgi import get_wsgi_application

application = get_wsgi_application()

from bathys_web.plans.starters import warm_engine  # noqa: E402 - needs the apps to be ready

warm_engine()

# What stands now stays for good. To look through all of it again and again for what may go would
# hold up some edits for longer than working them out takes.
gc.collect()
gc.freeze()
gc.set_threshold(5_000, 100, 50)
