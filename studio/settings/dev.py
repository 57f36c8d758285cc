"""For working on the house: debug pages and the parts page."""

from studio.settings.base import *  # noqa: F403

DEBUG = True
