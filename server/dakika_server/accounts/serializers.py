"""Shapes of what is asked about accounts, and of the answers."""

from typing import Any

from rest_framework import serializers

from dakika_server.accounts.models import Passkey, User
from dakika_server.accounts.passwords import LONGEST
from dakika_server.accounts.permissions import Role


class PasswordField(serializers.CharField):
    """A password, as it was typed: what is wrong with a new one is said by its validators."""

    def __init__(self, **options: Any) -> None:
        super().__init__(max_length=LONGEST, trim_whitespace=False, **options)


class CredentialField(serializers.JSONField):
    """What a device answered, as the browser's toJSON() writes it (Web Authentication, Level 3, 5.1.8)."""

    def to_internal_value(self, data: Any) -> Any:
        """The answer; what is no object is none."""
        value = super().to_internal_value(data)
        if not isinstance(value, dict):
            raise serializers.ValidationError("This is no answer of a device.")
        return value


class SessionBrandSerializer(serializers.Serializer[Any]):
    """A brand that the person may see."""

    slug = serializers.CharField()
    name = serializers.CharField()
    role = serializers.ChoiceField(choices=[role.value for role in Role])


class SessionSerializer(serializers.Serializer[Any]):
    """Who is signed in."""

    name = serializers.CharField()
    email = serializers.CharField()
    language = serializers.CharField(help_text="of the reports they begin")
    time_zone = serializers.CharField(allow_blank=True, help_text="of what is no brand's; empty: the browser's")
    theme = serializers.ChoiceField(choices=User.Theme.values)
    brands = SessionBrandSerializer(many=True)


class SignInSerializer(serializers.Serializer[Any]):
    """Address and password."""

    email = serializers.CharField(max_length=254)
    password = PasswordField()


class SecondFactorSerializer(serializers.Serializer[Any]):
    """What is asked for after the password."""

    ways = serializers.ListField(child=serializers.ChoiceField(choices=["code", "passkey"]))


class CodeSerializer(serializers.Serializer[Any]):
    """A code of a device, or one for recovery."""

    code = serializers.CharField(max_length=60)


class CredentialSerializer(serializers.Serializer[Any]):
    """What a device answered."""

    credential = CredentialField()


class NewPasskeySerializer(CredentialSerializer):
    """A passkey to be kept."""

    name = serializers.CharField(max_length=80, allow_blank=True, default="")


class PasskeyOptionsSerializer(serializers.Serializer[Any]):
    """What the browser asks a device with (Web Authentication, Level 3, 5.4 and 5.5)."""

    options = serializers.DictField()


class SureSerializer(serializers.Serializer[Any]):
    """Password, and a code where codes are asked for; or a passkey alone."""

    password = PasswordField(required=False, default="", allow_blank=True)
    code = serializers.CharField(max_length=60, required=False, default="", allow_blank=True)
    credential = CredentialField(required=False, default=None, allow_null=True)


class PasskeySerializer(serializers.ModelSerializer[Passkey]):
    """A passkey."""

    class Meta:
        model = Passkey
        fields = ["id", "name", "made_at", "used_at"]


class UserSessionSerializer(serializers.Serializer[Any]):
    """Where somebody is signed in."""

    id = serializers.IntegerField()
    began_at = serializers.DateTimeField()
    seen_at = serializers.DateTimeField(help_text="to five minutes")
    address = serializers.CharField()
    device = serializers.CharField(allow_blank=True, help_text="browser and system, as far as they are known")
    is_this = serializers.BooleanField()


class AccountEventSerializer(serializers.Serializer[Any]):
    """Something that happened to an account."""

    at = serializers.DateTimeField()
    words = serializers.CharField()
    address = serializers.CharField(allow_blank=True)


class OwnAccountSerializer(serializers.Serializer[Any]):
    """A person's account, for themselves."""

    name = serializers.CharField()
    email = serializers.CharField()
    language = serializers.CharField()
    time_zone = serializers.CharField(allow_blank=True)
    theme = serializers.ChoiceField(choices=User.Theme.values)
    has_codes = serializers.BooleanField()
    recovery_codes_left = serializers.IntegerField()
    takes_passkeys = serializers.BooleanField()
    passkeys = PasskeySerializer(many=True)
    sessions = UserSessionSerializer(many=True)
    events = AccountEventSerializer(many=True, help_text="what happened to it lately, the newest first")


class ChangedAccountSerializer(serializers.Serializer[Any]):
    """What a person chooses of themselves."""

    name = serializers.CharField(max_length=120)
    language = serializers.CharField(max_length=10)
    time_zone = serializers.CharField(max_length=64, allow_blank=True)
    theme = serializers.ChoiceField(choices=User.Theme.values)


class ChangedPasswordSerializer(serializers.Serializer[Any]):
    """A new password, with the present one."""

    current = PasswordField()
    password = PasswordField()


class EmailSerializer(serializers.Serializer[Any]):
    """An e-mail address."""

    email = serializers.CharField(max_length=254)


class KeySerializer(serializers.Serializer[Any]):
    """A key from an address in a letter."""

    key = serializers.CharField(max_length=2000)


class ResetSerializer(KeySerializer):
    """A new password, with the key of a letter."""

    password = PasswordField()


class TotpSerializer(serializers.Serializer[Any]):
    """A secret for a device: as it is typed, as its address (otpauth), and as a QR code of that (SVG as data)."""

    secret = serializers.CharField()
    address = serializers.CharField()
    picture = serializers.CharField()


class RecoveryCodesSerializer(serializers.Serializer[Any]):
    """Codes for when the device is gone; told once."""

    codes = serializers.ListField(child=serializers.CharField())
