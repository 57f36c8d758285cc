"""What gunicorn serves."""

import gc
import os

from django.core.wsgi import get_wsgi_application

from coating.typed import warm_up

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "studio.settings.production")
application = get_wsgi_application()
warm_up()  # the first maker who types a unit does not wait for the unit library
# What is loaded stays, so it is not looked through again; a page makes many rows and drops them all at its end.
gc.collect()
gc.freeze()
gc.set_threshold(50_000, 20, 50)
