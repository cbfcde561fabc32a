"""Links to be made or changed, rules, domains, pages."""

from typing import Any

from dakika_core.links.codes import CodeError, chosen_code
from dakika_core.links.utm import Existing, UtmRules
from django.conf import settings
from rest_framework import serializers

from dakika_server.links.actions import may_change
from dakika_server.links.models import TrackedLink
from dakika_server.shared.plain import PlainSerializer

LARGEST_KEY = 2**63 - 1
MOST_ROWS = 500


def short_address(link: TrackedLink) -> str:
    """The address to be passed on."""
    host = f"https://{link.domain.host}" if link.domain else settings.LINKS_ADDRESS
    return f"{host}/{link.code}"


class UtmSerializer(serializers.Serializer[Any]):
    """The five parameters; one left empty is left out of the address."""

    source = serializers.CharField(max_length=100, allow_blank=True, required=False)  # type: ignore[assignment]
    medium = serializers.CharField(max_length=100, allow_blank=True, required=False)
    campaign = serializers.CharField(max_length=100, allow_blank=True, required=False)
    term = serializers.CharField(max_length=100, allow_blank=True, required=False)
    content = serializers.CharField(max_length=100, allow_blank=True, required=False)


class DraftSerializer(serializers.Serializer[Any]):
    """A link to be made."""

    destination = serializers.CharField(max_length=4000, allow_blank=True)
    name = serializers.CharField(max_length=200, allow_blank=True, default="")
    network = serializers.CharField(max_length=40, allow_blank=True, default="")
    profile_id = serializers.IntegerField(required=False, allow_null=True, min_value=1, max_value=LARGEST_KEY)
    campaign_id = serializers.IntegerField(required=False, allow_null=True, min_value=1, max_value=LARGEST_KEY)
    code = serializers.CharField(max_length=40, allow_blank=True, default="", help_text="a chosen word")
    utm = UtmSerializer(required=False, default=dict)
    ends_at = serializers.DateTimeField(required=False, allow_null=True)
    keeps_query = serializers.BooleanField(default=True)

    def validate_code(self, code: str) -> str:
        """A chosen word is one that may stand in an address."""
        try:
            return chosen_code(code) if code.strip() else ""
        except CodeError as error:
            raise serializers.ValidationError(str(error)) from None


class RowsSerializer(serializers.Serializer[Any]):
    """Many links at once."""

    rows = serializers.ListField(child=DraftSerializer(), allow_empty=False, max_length=MOST_ROWS)


class PasteSerializer(serializers.Serializer[Any]):
    """A pasted list or CSV; what a row does not say is taken from here."""

    text = serializers.CharField(max_length=300_000, trim_whitespace=False)
    network = serializers.CharField(max_length=40, allow_blank=True, default="")
    campaign_id = serializers.IntegerField(required=False, allow_null=True, min_value=1, max_value=LARGEST_KEY)


class ChangesSerializer(serializers.Serializer[Any]):
    """What of a link is changed; what is not named stays."""

    destination = serializers.CharField(max_length=4000, required=False)
    name = serializers.CharField(max_length=200, required=False)
    utm = UtmSerializer(required=False)
    campaign_id = serializers.IntegerField(required=False, allow_null=True, min_value=1, max_value=LARGEST_KEY)
    ends_at = serializers.DateTimeField(required=False, allow_null=True)
    is_paused = serializers.BooleanField(required=False)
    keeps_query = serializers.BooleanField(required=False)
    owner_id = serializers.IntegerField(required=False, min_value=1, max_value=LARGEST_KEY)


class HostSerializer(serializers.Serializer[Any]):
    """A host as people read it and as machines call it."""

    shown = serializers.CharField()
    ascii = serializers.CharField()
    warning = serializers.CharField(allow_blank=True)


class ProposalSerializer(serializers.Serializer[Any]):
    """How a draft would come out."""

    destination = serializers.CharField()
    target = serializers.CharField()
    utm = UtmSerializer(help_text="as filled by the rules and by hand")
    kept = serializers.ListField(
        child=serializers.CharField(), help_text="parameters that the destination had and keeps"
    )
    replaced = serializers.ListField(
        child=serializers.CharField(), help_text="parameters of the destination that ours replace"
    )
    host = HostSerializer()

    def to_representation(self, instance: Any) -> dict[str, Any]:
        """UTM parameters by their short names."""
        shown = {k.removeprefix("utm_"): v for k, v in instance.utm.items()}
        return {
            "destination": instance.destination, "target": instance.target, "utm": shown, "kept": instance.kept,
            "replaced": instance.replaced, "host": vars(instance.host),
        }  # fmt: skip


class RowProposalSerializer(serializers.Serializer[Any]):
    """One row of a pasted list: how it would come out, or what is wrong with it."""

    row = serializers.IntegerField()
    draft = DraftSerializer(allow_null=True)
    target = serializers.CharField(allow_blank=True)
    error = serializers.CharField(allow_blank=True)


class PastedSerializer(serializers.Serializer[Any]):
    """A pasted list as it was understood."""

    columns = serializers.ListField(child=serializers.CharField())
    rows = RowProposalSerializer(many=True)
    problems = serializers.IntegerField()


class StepSerializer(serializers.Serializer[Any]):
    """One step on the way to a page."""

    status = serializers.IntegerField()
    address = serializers.CharField()


class ReachedSerializer(serializers.Serializer[Any]):
    """What came when the page was called."""

    is_reachable = serializers.BooleanField()
    error = serializers.CharField(allow_blank=True)
    steps = StepSerializer(many=True)
    title = serializers.CharField(allow_blank=True)


class AddressSerializer(serializers.Serializer[Any]):
    """A page to be called."""

    destination = serializers.CharField(max_length=4000)


class FormerTargetSerializer(PlainSerializer):
    """What a link led to before."""

    target = serializers.CharField()
    until = serializers.DateTimeField()
    by = serializers.CharField(source="changed_by.name", default="", allow_blank=True)


class LinkSerializer(PlainSerializer):
    """A tracked link with its counts."""

    id = serializers.IntegerField(source="pk")
    code = serializers.CharField()
    short = serializers.SerializerMethodField()
    name = serializers.CharField()
    destination = serializers.CharField()
    target = serializers.CharField()
    utm = serializers.SerializerMethodField()
    network = serializers.CharField(allow_blank=True)
    campaign = serializers.CharField(source="campaign.name", default=None, allow_null=True)
    campaign_id = serializers.IntegerField(allow_null=True)
    is_paused = serializers.BooleanField()
    ends_at = serializers.DateTimeField(allow_null=True)
    keeps_query = serializers.BooleanField()
    owner = serializers.CharField(source="created_by.name", default="", allow_blank=True)
    created_at = serializers.DateTimeField()
    posts = serializers.IntegerField(default=0, help_text="how many carry it")
    clicks_in_period = serializers.IntegerField(default=0)
    clicks_before = serializers.IntegerField(default=0)
    bots_in_period = serializers.IntegerField(default=0)
    over_in_period = serializers.IntegerField(default=0, help_text="people's clicks after the link had ended")
    clicks_ever = serializers.IntegerField(default=0)
    last_click_at = serializers.DateTimeField(default=None, allow_null=True)

    def get_short(self, link: Any) -> str:
        """The address to be passed on."""
        return short_address(link)

    def get_utm(self, link: Any) -> dict[str, str]:
        """UTM parameters by their short names."""
        return {k.removeprefix("utm_"): str(v) for k, v in link.utm.items()}


class OneLinkSerializer(LinkSerializer):
    """A link with its history, and whether the person may change it."""

    may_change = serializers.SerializerMethodField()
    former = FormerTargetSerializer(source="former_targets", many=True)

    def get_may_change(self, link: Any) -> bool:
        """Its owner alone may."""
        user = self.context.get("user")
        return user is not None and may_change(user, link)


class TemplatesSerializer(UtmSerializer):
    """A rule for each parameter."""


class RulesSerializer(serializers.Serializer[Any]):
    """A brand's rules for UTM parameters."""

    templates = TemplatesSerializer()
    separator = serializers.ChoiceField(choices=["-", "_", "."], default="-")
    is_lower = serializers.BooleanField(default=True)
    is_transliterated = serializers.BooleanField(default=True)
    existing = serializers.ChoiceField(choices=[e.value for e in Existing], default=Existing.KEEP.value)


def shown_rules(rules: UtmRules) -> dict[str, Any]:
    """Rules as they are sent."""
    return {**vars(rules), "templates": dict(rules.templates), "existing": rules.existing.value}


class PreviewSerializer(DraftSerializer):
    """A link to be looked at, by the brand's rules or by others that are being tried."""

    rules = RulesSerializer(required=False)


class PlaceSerializer(serializers.Serializer[Any]):
    """A place that a rule may hold."""

    name = serializers.CharField()
    meaning = serializers.CharField()


class DomainSerializer(serializers.Serializer[Any]):
    """A host of the brand's own."""

    id = serializers.IntegerField(source="pk", read_only=True)
    host = serializers.CharField(max_length=253)
    is_chosen = serializers.BooleanField(read_only=True)
    links = serializers.IntegerField(read_only=True, source="count", default=0)


class ChoiceSerializer(serializers.Serializer[Any]):
    """The host that new links stand on; none for the one that all share."""

    id = serializers.IntegerField(allow_null=True)


class LinkSettingsSerializer(serializers.Serializer[Any]):
    """Rules, and what visitors of a link that is over are shown."""

    rules = RulesSerializer()
    home = serializers.CharField(max_length=2048, allow_blank=True, default="")
    over_words = serializers.CharField(max_length=500, allow_blank=True, default="")


class ShownSettingsSerializer(LinkSettingsSerializer):
    """The same with what there is to choose from."""

    places = PlaceSerializer(many=True)
    domains = DomainSerializer(many=True)
    shared_host = serializers.CharField()


class EntryInputSerializer(serializers.Serializer[Any]):
    """A link on a page."""

    link_id = serializers.IntegerField(min_value=1, max_value=LARGEST_KEY)
    title = serializers.CharField(max_length=120, allow_blank=True, default="")


class PageInputSerializer(serializers.Serializer[Any]):
    """A page to be made or changed."""

    slug = serializers.CharField(max_length=60)
    title = serializers.CharField(max_length=120)
    words = serializers.CharField(max_length=500, allow_blank=True, default="")
    is_shown = serializers.BooleanField(default=True)
    entries = EntryInputSerializer(many=True, default=list)


class PageSerializer(serializers.Serializer[Any]):
    """A page with its entries, how often it was opened, and the clicks that came through it."""

    id = serializers.IntegerField(source="pk")
    slug = serializers.CharField()
    address = serializers.SerializerMethodField()
    title = serializers.CharField()
    words = serializers.CharField(allow_blank=True)
    is_shown = serializers.BooleanField()
    clicks = serializers.IntegerField(default=0)
    views = serializers.SerializerMethodField(help_text="times that people opened it; null: none was counted yet")
    entries = EntryInputSerializer(many=True, source="entries.all")

    def get_address(self, page: Any) -> str:
        """Where it is shown."""
        return f"{settings.LINKS_ADDRESS}/p/{page.slug}/"

    def get_views(self, page: Any) -> int | None:
        """How often people opened it."""
        found: int | None = getattr(page, "seen", None)
        return found
