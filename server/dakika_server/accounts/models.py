"""People who sign in."""

import unicodedata
from typing import Any, ClassVar

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models
from django.db.models.functions import Lower


def normal_name(name: str) -> str:
    """The one form of a name for signing in: finding people and counting wrong guesses must mean the same by it."""
    return unicodedata.normalize("NFKC", name).strip().lower()


def name_in_guess(request: Any, credentials: dict[str, Any] | None) -> str | None:
    """The name a sign-in was tried with, for the counting of failures."""
    del request
    name = (credentials or {}).get("username")
    return normal_name(name) if name else None


class UserManager(BaseUserManager["User"]):
    """Makes users."""

    def create_user(self, email: str, password: str | None = None, **fields: Any) -> "User":
        """A user with a hashed password; none can be used when the password is None."""
        user = self.model(email=normal_name(email), **fields)
        user.set_password(password)
        user.save(using=self._db)
        return user

    def get_by_natural_key(self, email: str | None) -> "User":
        """Addresses are the same in any case."""
        return self.get(email=normal_name(email or ""))


class FirstKey(models.Model):
    """The key that lets the first person of an installation in, once; kept as a digest (shared.keys)."""

    digest = models.CharField(max_length=64, unique=True)
    until = models.DateTimeField()

    def __str__(self) -> str:
        return f"until {self.until}"


class User(AbstractBaseUser):
    """A person, known by an e-mail address."""

    email = models.EmailField(unique=True)
    name = models.CharField(max_length=120)
    is_active = models.BooleanField(default=True)

    USERNAME_FIELD = "email"
    REQUIRED_FIELDS: ClassVar[list[str]] = ["name"]
    objects = UserManager()

    class Meta:
        constraints = [models.UniqueConstraint(Lower("email"), name="user_email_once")]

    def __str__(self) -> str:
        return self.email
