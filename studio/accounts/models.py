"""A maker, who signs in with an e-mail address, and the one kitchen a maker has."""

from __future__ import annotations

from typing import Any, ClassVar

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models

from coating.limits import BOUNDS
from studio.common.models import Versioned


class UserManager(BaseUserManager["User"]):
    def create_user(self, email: str, password: str | None = None, **fields: Any) -> User:
        user = self.model(email=self.normal(email), **fields)
        user.set_password(password)
        user.save()
        return user

    @staticmethod
    def normal(email: str) -> str:
        """Addresses compare without case."""
        return email.strip().lower()

    def get_by_natural_key(self, username: str | None) -> User:
        return self.get(email=self.normal(username or ""))


class User(AbstractBaseUser):
    email = models.EmailField("E-mail", unique=True)
    is_active = models.BooleanField(default=True)
    joined_at = models.DateTimeField(auto_now_add=True)

    objects: ClassVar[UserManager] = UserManager()
    USERNAME_FIELD = "email"
    EMAIL_FIELD = "email"
    REQUIRED_FIELDS: ClassVar[list[str]] = []

    def __str__(self) -> str:
        return self.email


class Kitchen(Versioned):
    """What a kitchen has, said once; everything a maker owns hangs on it."""

    owner = models.OneToOneField(User, on_delete=models.CASCADE, related_name="kitchen")
    name = models.CharField(max_length=80, default="My kitchen")
    zone = models.CharField(max_length=64, default="UTC")
    room_c = models.FloatField(default=21.0)
    has_thermometer = models.BooleanField(default=False)
    has_scale = models.BooleanField(default=True)
    is_demo = models.BooleanField(default=False)
    goes_at = models.DateTimeField(null=True, blank=True, db_index=True)
    created_at = models.DateTimeField(auto_now_add=True)
    cupboard_version = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=models.Q(room_c__gte=BOUNDS["room_c"].low, room_c__lte=BOUNDS["room_c"].high),
                name="kitchen_room_c_in_bounds",
            )
        ]

    def __str__(self) -> str:
        return self.name
