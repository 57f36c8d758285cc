"""What gunicorn serves."""

import os

from django.core.wsgi import get_wsgi_application

from coating.typed import warm_up

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "studio.settings.production")
application = get_wsgi_application()
warm_up()  # the first maker who types a unit does not wait for the unit library
