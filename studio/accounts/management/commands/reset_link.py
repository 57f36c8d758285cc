"""Prints a link that sets a new password, for kitchens without a mail server."""

from typing import Any

from django.contrib.auth.tokens import default_token_generator
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.urls import reverse
from django.utils.encoding import force_bytes
from django.utils.http import urlsafe_base64_encode

from studio.accounts.models import User


class Command(BaseCommand):
    """Prints a link that sets a new password."""

    help = "Print a link that sets a new password for an e-mail address."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("email")

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            user = User.objects.get_by_natural_key(options["email"])
        except User.DoesNotExist as missing:
            raise CommandError("There is no kitchen for this address.") from missing
        words = {
            "uidb64": urlsafe_base64_encode(force_bytes(user.pk)),
            "token": default_token_generator.make_token(user),
        }
        self.stdout.write(reverse("accounts:new-password", kwargs=words))
