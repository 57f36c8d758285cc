"""Settings common to every way of running. What differs by machine comes from the environment."""

from pathlib import Path

import environ
from csp.constants import NONE, SELF

env = environ.Env()
ROOT = Path(__file__).resolve().parents[2]
RUNTIME = Path(env("OLIVE_RUNTIME", default=str(ROOT / ".runtime")))

SECRET_KEY = env("OLIVE_SECRET_KEY", default="only-for-commands-that-serve-nobody")
DEBUG = False
ALLOWED_HOSTS = env.list("OLIVE_HOSTS", default=["127.0.0.1", "localhost", "[::1]"])
CSRF_TRUSTED_ORIGINS = env.list("OLIVE_ORIGINS", default=[])
PROXIES = env.int("OLIVE_PROXIES", default=0)  # how many stand in front and add to X-Forwarded-For
ORIGIN = env("OLIVE_ORIGIN", default="http://127.0.0.1:8000").rstrip("/")  # what links in letters begin with
DEMO_OFFERED = env.bool("OLIVE_DEMO", default=True)

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "whitenoise.runserver_nostatic",
    "django.contrib.staticfiles",
    "django.forms",
    "axes",
    "django_tasks",
    "django_tasks_db",
    "csp",
    "studio.common",
    "studio.work",
    "studio.accounts",
    "studio.colours",
    "studio.cupboard",
    "studio.pieces",
    "studio.bowls",
    "studio.designs",
    "studio.day",
    "studio.learned",
    "studio.rescue",
    "studio.notebook",
    "studio.quick",
    "studio.swatches",
    "studio.demo",
]

MIDDLEWARE = [
    "studio.common.middleware.AddressOfTheMaker",
    "studio.common.middleware.DatabaseAway",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "studio.common.middleware.SmallerPages",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "studio.accounts.middleware.KitchenOfTheMaker",
    "studio.common.middleware.LimitOfABody",
    "axes.middleware.AxesMiddleware",
]

ROOT_URLCONF = "studio.urls"
WSGI_APPLICATION = "studio.wsgi.application"

TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [ROOT / "studio" / "templates"],
        "OPTIONS": {
            "loaders": [
                (
                    "django.template.loaders.cached.Loader",
                    ["studio.common.loaders.FolderLoader", "studio.common.loaders.AppLoader"],
                )
            ],
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
                "studio.common.context.house",
                "studio.bowls.context.band",
                "studio.rescue.context.wrong_here",
                "studio.notebook.notes.note_here",
                "studio.notebook.where.used_here",
                "studio.demo.walk.walk",
            ],
            "builtins": [
                f"studio.common.templatetags.{name}"
                for name in ("kitchen", "clocks", "parameters", "pictures", "page", "words")
            ],
        },
    }
]
FORM_RENDERER = "studio.common.forms.HouseRenderer"

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.mysql",
        "HOST": env("OLIVE_DB_HOST", default="127.0.0.1"),
        "PORT": env("OLIVE_DB_PORT", default="3307"),
        "NAME": env("OLIVE_DB_NAME", default="olive"),
        "USER": env("OLIVE_DB_USER", default="olive"),
        "PASSWORD": env("OLIVE_DB_PASSWORD", default=""),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "charset": "utf8mb4",
            "isolation_level": "read committed",
            "init_command": "SET sql_mode='STRICT_ALL_TABLES'",
        },
        "TEST": {"NAME": "test_olive", "CHARSET": "utf8mb4", "COLLATION": "utf8mb4_uca1400_as_ci"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
CACHES = {"default": {"BACKEND": "django.core.cache.backends.locmem.LocMemCache"}}

TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}
# How long a better day is looked for, and how long for a large one.
PLANNING_S = tuple(env.list("OLIVE_PLANNING_S", cast=float, default=[12.0, 30.0]))

AUTH_USER_MODEL = "accounts.User"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
LOGIN_URL = "accounts:login"
LOGIN_REDIRECT_URL = "bowls:list"
LOGOUT_REDIRECT_URL = "quick:card"
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = 0.25
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_USERNAME_FORM_FIELD = "username"
AXES_LOCKOUT_TEMPLATE = "429.html"
AXES_RESET_ON_SUCCESS = True
AXES_ENABLE_ADMIN = False
AXES_VERBOSE = False

EMAIL_BACKEND = "studio.common.letters.Letters"
EMAIL_FILE_PATH = RUNTIME / "mail"
DEFAULT_FROM_EMAIL = "Olive Ribbon <kitchen@localhost>"

USE_TZ = True
TIME_ZONE = "UTC"
USE_I18N = False
LANGUAGE_CODE = "en"

# How much one archive of a kitchen may hold, photos and all.
MOST_ARCHIVE_BYTES = env.int("OLIVE_ARCHIVE_BYTES", default=2 * 2**30)
TAKES_ARCHIVES = "/notebook/archive/bring/"

STATIC_URL = "static/"
STATIC_ROOT = RUNTIME / "static"
STATICFILES_DIRS = [ROOT / "studio" / "static"]
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
MEDIA_ROOT = RUNTIME / "media"

HTTPS = env.bool("OLIVE_HTTPS", default=False)
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = HTTPS
SESSION_COOKIE_HTTPONLY = CSRF_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = CSRF_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_AGE = 60 * 60 * 24 * 30
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
CSRF_FAILURE_VIEW = "studio.common.views.form_expired"
DATA_UPLOAD_MAX_MEMORY_SIZE = 256 * 1024
MOST_BYTES_AT_ONCE = 60 * 2**20
DATA_UPLOAD_MAX_NUMBER_FIELDS = 400

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF],
        "img-src": [SELF, "data:"],
        "font-src": [SELF],
        "connect-src": [SELF],
        "manifest-src": [SELF],
        "worker-src": [SELF],
        "form-action": [SELF],
        "frame-ancestors": [NONE],
        "base-uri": [NONE],
    }
}

LIVE_PER_SECOND = 20
LIVE_BYTES = 16 * 1024

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
