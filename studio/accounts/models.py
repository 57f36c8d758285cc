"""A maker, who signs in with an e-mail address, and the one kitchen a maker has."""

from __future__ import annotations

from typing import Any, ClassVar

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models

from coating.care import REGIONS
from coating.heat.schools import ORDINARY_W, SCHOOLS
from coating.limits import BOUNDS
from coating.quantities import Measures
from studio.common.models import Versioned, within


class UserManager(BaseUserManager["User"]):
    """Makers, found by their address however it is spelt."""

    def get_queryset(self) -> models.QuerySet[User]:
        """A maker comes with the kitchen, which every page asks for."""
        return super().get_queryset().select_related("kitchen")

    def create_user(self, email: str, password: str | None = None, **fields: Any) -> User:
        """A new maker; without a password none can log in."""
        user = self.model(email=self.normal(email), **fields)
        user.set_password(password)
        user.save()
        return user

    @staticmethod
    def normal(email: str) -> str:
        """Addresses compare without case."""
        return email.strip().lower()

    def get_by_natural_key(self, username: str | None) -> User:
        """The maker with this address."""
        return self.get(email=self.normal(username or ""))


class User(AbstractBaseUser):
    """A maker who can log in."""

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
    """What a kitchen has and how things are done in it, said once; everything a maker owns hangs on it."""

    MASSES = [("g", "grams"), ("oz", "ounces")]
    TEMPERATURES = [("C", "°C"), ("F", "°F")]
    LENGTHS = [("mm", "mm and cm"), ("in", "inches")]
    THINNERS = [("palm_flakes", "palm flakes"), ("shortening", "shortening"), ("coconut_oil", "coconut oil")]
    MELTING = [(s.name, s.title) for s in SCHOOLS.values()]
    SETTING = [("room", "in the room"), ("fridge", "in the fridge"), ("freezer", "in the freezer")]

    owner = models.OneToOneField(User, on_delete=models.CASCADE, related_name="kitchen")
    name = models.CharField(max_length=80, default="My kitchen")
    zone = models.CharField(max_length=64, default="UTC")
    room_c = models.FloatField(default=21.0)
    has_thermometer = models.BooleanField(default=False)
    has_scale = models.BooleanField(default=True)
    power_w = models.FloatField(null=True, blank=True)
    has_fridge = models.BooleanField(default=True)
    has_freezer = models.BooleanField(default=True)
    mass_unit = models.CharField(max_length=2, choices=MASSES, default="g")
    temperature_unit = models.CharField(max_length=2, choices=TEMPERATURES, default="C")
    length_unit = models.CharField(max_length=2, choices=LENGTHS, default="mm")
    thinner_school = models.CharField(max_length=12, choices=THINNERS, default="palm_flakes")
    melting_school = models.CharField(max_length=14, choices=MELTING, default="half_power")
    setting_school = models.CharField(max_length=8, choices=SETTING, default="room")
    region = models.CharField(max_length=10, choices=list(REGIONS.items()), default="elsewhere")
    profile_said = models.BooleanField(default=False)
    drain_hole_mm = models.FloatField(null=True, blank=True)  # of the bag they drain, once it was calibrated
    paces = models.JSONField(default=dict, blank=True)  # seconds for one of a technique, by its key
    is_demo = models.BooleanField(default=False)
    goes_at = models.DateTimeField(null=True, blank=True, db_index=True)
    created_at = models.DateTimeField(auto_now_add=True)
    cupboard_version = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=models.Q(room_c__gte=BOUNDS["room_c"].low, room_c__lte=BOUNDS["room_c"].high),
                name="kitchen_room_c_in_bounds",
            ),
            models.CheckConstraint(
                condition=models.Q(power_w=None)
                | models.Q(power_w__gte=BOUNDS["oven_w"].low, power_w__lte=BOUNDS["oven_w"].high),
                name="kitchen_power_w_in_bounds",
            ),
            within("drain_hole_mm", BOUNDS["hole_mm"].low, BOUNDS["hole_mm"].high, name="kitchen_drain_hole_within"),
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def measures(self) -> Measures:
        """How amounts read in this kitchen."""
        return Measures(
            self.mass_unit,
            self.temperature_unit,
            self.length_unit,
            has_scale=self.has_scale,
            has_thermometer=self.has_thermometer,
        )

    @property
    def places(self) -> list[str]:
        """Where things can set here, the place it prefers first."""
        there = {"room": True, "fridge": self.has_fridge, "freezer": self.has_freezer}
        return sorted((p for p, has in there.items() if has), key=lambda p: p != self.setting_school)

    @property
    def oven_w(self) -> float:
        """Rated power of the microwave in W; an ordinary one when it was not said."""
        return self.power_w or ORDINARY_W
