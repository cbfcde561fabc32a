"""People who sign in, by what, and from where they are signed in."""

import unicodedata
from typing import Any, ClassVar

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models
from django.db.models.functions import Lower

from dakika_server.accounts.passwords import normal_password


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
    """A person, known by an e-mail address.

    language: that of the reports they begin; time_zone: of what is no brand's (empty: their browser's).
    """

    class Theme(models.TextChoices):
        """How screens look."""

        SYSTEM = "system"
        LIGHT = "light"
        DARK = "dark"

    email = models.EmailField(unique=True)
    name = models.CharField(max_length=120)
    is_active = models.BooleanField(default=True)
    is_program = models.BooleanField(default=False, db_default=False, help_text="acts by tokens alone, and has no mail")
    language = models.CharField(max_length=10, default="en", db_default="en")
    time_zone = models.CharField(max_length=64, blank=True, default="", db_default="")
    theme = models.CharField(max_length=6, choices=Theme, default=Theme.SYSTEM, db_default="system")

    USERNAME_FIELD = "email"
    REQUIRED_FIELDS: ClassVar[list[str]] = ["name"]
    objects = UserManager()

    class Meta:
        constraints = [models.UniqueConstraint(Lower("email"), name="user_email_once")]

    def __str__(self) -> str:
        return self.email

    def set_password(self, raw_password: str | None) -> None:
        """Keep a password in its one form, so that another keyboard types the same."""
        super().set_password(None if raw_password is None else normal_password(raw_password))

    def check_password(self, raw_password: str | None) -> bool:
        """Whether it is the password; those kept before they had one form count as they were typed."""
        if raw_password is None:
            return False
        normal = normal_password(raw_password)
        return super().check_password(normal) or (normal != raw_password and super().check_password(raw_password))


class UserSession(models.Model):
    """Where somebody is signed in: a session of Django's with what lets its owner recognise it."""

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="sessions", db_index=False)
    session_key = models.CharField(max_length=40, unique=True)
    began_at = models.DateTimeField()
    seen_at = models.DateTimeField()
    address = models.CharField(max_length=45, help_text="from where, as last seen")
    agent = models.CharField(max_length=300, blank=True, help_text="the browser, as it calls itself")

    class Meta:
        indexes = [models.Index(fields=["user", "-seen_at"], name="session_by_user")]

    def __str__(self) -> str:
        return f"{self.user_id} since {self.began_at}"


class TotpSecret(models.Model):
    """The secret that a person's device makes codes from (RFC 6238), sealed. It counts once a code has shown it."""

    user = models.OneToOneField(User, on_delete=models.CASCADE, related_name="totp")
    sealed = models.BinaryField()
    confirmed_at = models.DateTimeField(null=True)
    last_step = models.BigIntegerField(default=0, help_text="the time step of the last code: none is taken twice")

    def __str__(self) -> str:
        return f"of {self.user_id}"


class RecoveryCode(models.Model):
    """A code that lets its person in once without their device; of 120 bits, so that a digest keeps it."""

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="recovery_codes")
    digest = models.CharField(max_length=64, unique=True)
    used_at = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return f"of {self.user_id}"


class Passkey(models.Model):
    """A key pair of a person's device (Web Authentication, Level 3); we have its public half."""

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="passkeys")
    name = models.CharField(max_length=80)
    credential_id = models.BinaryField(unique=True)
    public_key = models.BinaryField()
    sign_count = models.BigIntegerField(default=0)
    made_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return self.name


class WrongCode(models.Model):
    """A wrong second factor, so that guessing ends."""

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="wrong_codes", db_index=False)
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["user", "at"], name="wrong_code_by_user")]

    def __str__(self) -> str:
        return f"{self.user_id} at {self.at}"
