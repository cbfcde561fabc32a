"""People who sign in."""

from typing import Any, ClassVar

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models
from django.db.models.functions import Lower


class UserManager(BaseUserManager["User"]):
    """Makes users."""

    def create_user(self, email: str, password: str | None = None, **fields: Any) -> "User":
        """A user with a hashed password; none can be used when the password is None."""
        user = self.model(email=self.normalize_email(email).lower(), **fields)
        user.set_password(password)
        user.save(using=self._db)
        return user

    def get_by_natural_key(self, email: str | None) -> "User":
        """Addresses are the same in any case."""
        return self.get(email__iexact=email)


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
