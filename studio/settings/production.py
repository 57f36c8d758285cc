"""For `./start`: hashed static files, and HTTPS rules when a proxy in front speaks HTTPS.

`manage.py check --deploy` is clean with it. Two of its wishes are left: HSTS for every other name under ours and for
the browsers' own lists, which is for the owner of the domain to decide. Without HTTPS (a kitchen's own machine, on
loopback) what needs HTTPS is off: a Secure cookie would never come back.
"""

from studio.settings.base import *  # noqa: F403
from studio.settings.base import HTTPS, env
from studio.settings.base import STORAGES as BASE_STORAGES

SECRET_KEY = env("OLIVE_SECRET_KEY")
SILENCED_SYSTEM_CHECKS = ["security.W005", "security.W021"]
STORAGES = {
    **BASE_STORAGES,
    "staticfiles": {"BACKEND": "studio.common.storage.HashedModules"},
}
if HTTPS:
    SECURE_SSL_REDIRECT = True
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    SECURE_HSTS_SECONDS = 60 * 60 * 24 * 30
else:
    SILENCED_SYSTEM_CHECKS += ["security.W004", "security.W008", "security.W012", "security.W016"]
