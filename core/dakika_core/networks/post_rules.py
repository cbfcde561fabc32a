"""Would a network take this post: its words, title, first comment, pictures, videos and options?

Lengths of titles and first comments are counted in the network's own unit, as its text. What is said beside the rules
is advice: alternative text for those who do not see a picture follows WCAG 2.2, 1.1.1; a picture of another shape or
weight is told about because it will be cut or made lighter on its way.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from dakika_core.networks.definition import CountUnit, MediaRule, Need, NetworkDefinition
from dakika_core.networks.text_rules import Problem, check_text, count_graphemes

_NEEDED = {
    Need.PICTURE: "a picture",
    Need.VIDEO: "a video",
    Need.PICTURE_OR_VIDEO: "a picture or a video",
}
# Shapes that differ by less than a hundredth are the same to the eye, and to networks.
SAME_SHAPE = 0.01
MEGABYTE = 1_000_000


class Kind(StrEnum):
    """What a file is."""

    PICTURE = "picture"
    VIDEO = "video"
    DOCUMENT = "document"


@dataclass(frozen=True, kw_only=True)
class Attachment:
    """A file that goes with a post: pixels as it is to be seen, bytes, and whether it has alternative text."""

    kind: Kind
    name: str = ""
    width: int | None = None
    height: int | None = None
    seconds: float | None = None
    size: int = 0
    has_words: bool = True

    @property
    def shape(self) -> float | None:
        """Width divided by height."""
        return self.width / self.height if self.width and self.height else None


@dataclass(frozen=True, kw_only=True)
class Content:
    """What a post consists of, on one network."""

    text: str = ""
    headline: str = ""
    first_comment: str = ""
    media: tuple[Attachment, ...] = ()
    options: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class PostCheck:
    """A post held against a network's rules; `count` and `limit` of its text in the network's unit."""

    count: int
    limit: int
    problems: tuple[Problem, ...]

    @property
    def is_publishable(self) -> bool:
        """Whether the network would take it."""
        return not any(problem.is_blocking for problem in self.problems)


def check_post(content: Content, network: NetworkDefinition) -> PostCheck:
    """Hold a post against a network's rules: its problems, the blocking ones first."""
    text = check_text(content.text, network)
    found = [*text.problems, *_of_title(content, network), *_of_first_comment(content, network)]
    found += [*_of_media(content, network), *_of_options(content, network)]
    return PostCheck(count=text.count, limit=text.limit, problems=tuple(sorted(found, key=lambda p: not p.is_blocking)))


def nearest_shape(shape: float, rule: MediaRule) -> float | None:
    """The shape that a picture is to be cut to so that the network takes it; None where it is taken as it is."""
    low, high = rule.narrowest or 0.0, rule.widest or float("inf")
    if low * (1 - SAME_SHAPE) <= shape <= high * (1 + SAME_SHAPE):
        return None
    return low if shape < low else high


def shape_words(shape: float) -> str:
    """A shape as people write it: width to height in small numbers."""
    best = min(
        ((w, h) for w in range(1, 22) for h in range(1, 22)),
        key=lambda one: (round(abs(one[0] / one[1] - shape) / shape, 3), one[0] + one[1]),
    )
    return f"{best[0]}:{best[1]}" if abs(best[0] / best[1] - shape) / shape <= SAME_SHAPE else f"{shape:.2f}:1"


def _count(text: str, network: NetworkDefinition) -> int:
    return count_graphemes(text) if network.text.unit is CountUnit.GRAPHEMES else len(text)


def _of_title(content: Content, network: NetworkDefinition) -> Iterator[Problem]:
    limit, title = network.text.title_limit, content.headline
    if not limit:
        return
    if not title.strip():
        yield Problem(code="needs_title", message=f"{network.name} wants a title.", is_blocking=True, part="headline")
    over = _count(title, network) - limit
    if over > 0:
        message = f"The title is {over} {'character' if over == 1 else 'characters'} too long for {network.name}."
        yield Problem(code="title_too_long", message=message, is_blocking=True, part="headline")


def _of_first_comment(content: Content, network: NetworkDefinition) -> Iterator[Problem]:
    said = content.first_comment
    if not said.strip():
        return
    if not network.offer.has_first_comment:
        message = f"{network.name} takes no first comment: it is left out there."
        yield Problem(code="no_first_comment", message=message, is_blocking=False, part="first_comment")
        return
    over = _count(said, network) - network.text.limit
    if over > 0:
        message = f"The first comment is {over} too long for {network.name}."
        yield Problem(code="first_comment_too_long", message=message, is_blocking=True, part="first_comment")


def _of_options(content: Content, network: NetworkDefinition) -> Iterator[Problem]:
    for option in network.options:
        chosen = content.options.get(option.key, "")
        if option.is_required and not chosen:
            message = f"Choose a {option.name.lower()} at {network.name}."
            yield Problem(code="needs_option", message=message, is_blocking=True, part=option.key)
        unknown = [one for one in option.chosen(chosen) if option.choices and one not in option.choices]
        if unknown:
            message = f"{network.name} knows no {option.name.lower()} \u201c{unknown[0]}\u201d. Choose another."
            yield Problem(code="no_such_option", message=message, is_blocking=True, part=option.key)


def _of_media(content: Content, network: NetworkDefinition) -> Iterator[Problem]:
    for code, message, is_blocking in [*_counts(content, network), *_each(content, network)]:
        yield Problem(code=code, message=message, is_blocking=is_blocking, part="media")


Found = tuple[str, str, bool]


def _counts(content: Content, network: NetworkDefinition) -> Iterator[Found]:
    """How many, and of which kind."""
    rule, name = network.media, network.name
    many = {kind: sum(one.kind is kind for one in content.media) for kind in Kind}
    pictures, videos, documents = many[Kind.PICTURE], many[Kind.VIDEO], many[Kind.DOCUMENT]
    lacks = {
        Need.NOTHING: False, Need.PICTURE: not pictures, Need.VIDEO: not videos,
        Need.PICTURE_OR_VIDEO: not pictures and not videos,
    }  # fmt: skip
    if lacks[rule.need]:
        yield "needs_media", f"{name} wants {_NEEDED[rule.need]} with every post.", True
    if videos and not rule.takes_videos:
        yield "no_videos", f"{name} takes no videos.", True
    elif videos > 1:
        yield "too_many_videos", f"{name} takes one video; this has {videos}.", True
    elif videos and (documents or (pictures and not rule.has_still)):
        yield "video_alone", f"{name} takes a video alone: take the rest out there.", True
    if documents and not rule.takes_documents:
        yield "no_documents", f"{name} takes no documents.", True
    elif documents > 1 or (documents and pictures):
        yield "document_alone", f"{name} takes one document alone.", True
    most = rule.most_pictures
    if pictures > most and not (pictures and not most and rule.need is Need.VIDEO and videos):
        message = f"{name} takes {most} {'picture' if most == 1 else 'pictures'}; this has {pictures}." if most else (
            f"{name} takes no pictures.")  # fmt: skip
        yield "too_many_pictures", message, True


def _each(content: Content, network: NetworkDefinition) -> Iterator[Found]:
    """Shapes, weights, seconds, and words for those who do not see."""
    rule, name = network.media, network.name
    for one in content.media:
        called = f"\u201c{one.name}\u201d" if one.name else one.kind.value
        shape = one.shape
        wanted = nearest_shape(shape, rule) if shape else None
        is_still = one.kind is Kind.PICTURE and rule.has_still
        if wanted and shape and one.kind is Kind.VIDEO:
            yield "shape", (
                f"{name} wants videos of {shape_words(wanted)}; {called} is {shape_words(shape)}. "
                "Bring one of that shape."
            ), True  # fmt: skip
        elif wanted and one.kind is Kind.PICTURE and not is_still:
            yield "is_cut", f"{called} is cut to {shape_words(wanted)} for {name}, around its focus.", False
        if one.kind is Kind.VIDEO:
            yield from _seconds(one, rule, name, called)
            if one.size > rule.largest_video_mb * MEGABYTE:
                yield "too_heavy", f"{called} is heavier than the {rule.largest_video_mb:.0f} MB of {name}.", True
        if one.kind is Kind.PICTURE and one.size > rule.largest_picture_mb * MEGABYTE:
            yield "is_lightened", f"{called} is made lighter for {name} ({rule.largest_picture_mb:.0f} MB).", False
        if one.kind is Kind.PICTURE and not one.has_words:
            yield "no_words", f"{called} has no alternative text for those who do not see it.", False


def _seconds(one: Attachment, rule: MediaRule, name: str, called: str) -> Iterator[Found]:
    if one.seconds is None:
        return
    if rule.longest_seconds is not None and one.seconds > rule.longest_seconds:
        yield "too_long", f"{called} runs {one.seconds:.0f} s; {name} takes {rule.longest_seconds:.0f} s.", True
    if rule.shortest_seconds is not None and one.seconds < rule.shortest_seconds:
        yield "too_short", f"{called} runs {one.seconds:.1f} s; {name} wants {rule.shortest_seconds:.0f} s.", True
