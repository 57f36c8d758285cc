"""For `./start`: hashed static files, and HTTPS rules when a proxy in front speaks HTTPS."""

from studio.settings.base import *  # noqa: F403
from studio.settings.base import HTTPS
from studio.settings.base import STORAGES as BASE_STORAGES

STORAGES = {
    **BASE_STORAGES,
    "staticfiles": {"BACKEND": "studio.common.storage.HashedModules"},
}
if HTTPS:
    SECURE_SSL_REDIRECT = True
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    SECURE_HSTS_SECONDS = 60 * 60 * 24 * 30
