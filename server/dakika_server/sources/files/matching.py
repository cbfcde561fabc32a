"""Which rows of a file speak of posts that are here already? By identifier, address, or text and minute."""

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from dakika_core.sources.files.identifiers import address_key, made_up_id, text_key
from dakika_core.sources.files.rows import RowProblem
from django.db.models import Exists, OuterRef, Q

from dakika_server.sources.models import Import, Post, PostSource

# Exports write instants in other zones and to the minute: within two days it may be the same post.
AROUND = timedelta(days=2)
SAME_MINUTE = timedelta(seconds=60)
SHORTEST_TEXT = 12
Row = tuple[int, int, dict[str, Any]]


@dataclass(kw_only=True)
class Matched:
    """What was found out of a batch of rows.

    identifiers: of each row that comes in, the identifier that its post has or gets. known: rows of
    posts that were here before this file; together: rows that say what another row of it says;
    problems: rows whose identifier belongs to something else.
    """

    rows: list[tuple[Row, str]] = field(default_factory=list)
    known: int = 0
    together: int = 0
    problems: list[RowProblem] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class _Here:
    """A post that is here, or a row of this batch that came before."""

    identifier: str
    at: datetime
    has_time: bool
    text: str
    is_of_this_file: bool
    row: int = 0


class Ordinals:
    """The place of rows that nothing tells apart among those alike, counted through the whole file."""

    def __init__(self) -> None:
        self._seen: Counter[int] = Counter()

    def next(self, *key: object) -> int:
        """0 for the first of its kind, then 1, and so on."""
        at = hash(key)
        self._seen[at] += 1
        return self._seen[at] - 1


def match_posts(item: Import, rows: Sequence[Row], ordinals: Ordinals) -> Matched:
    """Find the post of every row. Two rows with different identifiers of their own are two posts of the file."""
    found = Matched()
    by_profile: dict[int, list[Row]] = defaultdict(list)
    for row in rows:
        by_profile[row[1]].append(row)
    for profile, own_rows in by_profile.items():
        _Matcher(item, profile, own_rows, ordinals).run(found)
    return found


class _Matcher:
    def __init__(self, item: Import, profile: int, rows: list[Row], ordinals: Ordinals) -> None:
        self.item, self.profile, self.rows, self.ordinals = item, profile, rows, ordinals
        self.zone: ZoneInfo = item.brand.zone
        self.by_id: dict[str, _Here] = {}
        self.by_address: dict[str, list[_Here]] = defaultdict(list)
        self.by_minute: dict[int, list[_Here]] = defaultdict(list)
        self.by_day: dict[Any, list[_Here]] = defaultdict(list)
        self.claimed: set[str] = set()
        self._load()

    def _load(self) -> None:
        """The posts of the profile around the batch's instants, and those with its identifiers."""
        instants = [v["published_at"] for _, _, v in self.rows]
        given = list({v["external_id"] for _, _, v in self.rows if v["external_id"]})
        spoken = PostSource.objects.filter(post=OuterRef("pk"), import_id=self.item.pk)
        around = Q(published_at__gte=min(instants) - AROUND, published_at__lte=max(instants) + AROUND)
        posts = Post.objects.filter(profile=self.profile).annotate(is_spoken_of=Exists(spoken))
        fields = ("external_id", "published_at", "has_time", "text", "url", "is_spoken_of")
        for query in (around, Q(external_id__in=given)):
            for identifier, at, has_time, text, url, is_spoken_of in (
                posts.filter(query).values_list(*fields).iterator()
            ):
                if identifier in self.by_id:
                    continue
                self._add(
                    _Here(identifier=identifier, at=at, has_time=has_time, text=text_key(text),
                          is_of_this_file=is_spoken_of), url,
                )  # fmt: skip

    def _add(self, here: _Here, url: str) -> None:
        self.by_id[here.identifier] = here
        if key := address_key(url):
            self.by_address[key].append(here)
        self.by_day[here.at.astimezone(self.zone).date()].append(here)
        if here.has_time:
            self.by_minute[int(here.at.timestamp()) // 60].append(here)

    def run(self, found: Matched) -> None:
        """Go through the rows in their order."""
        for row in self.rows:
            number, _, v = row
            given, text = v["external_id"] or "", text_key(v["text"] or "")
            here = self.by_id.get(given) if given else None
            if here is not None:
                problem = self._conflict(here, v, text, number)
                if problem:
                    found.problems.append(problem)
                    continue
                found.together += here.is_of_this_file
                found.known += not here.is_of_this_file
                found.rows.append((row, here.identifier))
                continue
            here = self._by_address(v) or self._by_words(v, text)
            if here is None:
                identifier = given or self._made_up(v)
                here = self.by_id.get(identifier)
            if here is not None and not (given and here.is_of_this_file):
                found.together += here.is_of_this_file
                found.known += not here.is_of_this_file
                self.claimed.add(here.identifier)
                found.rows.append((row, here.identifier))
                continue
            identifier = given or self._made_up_again(v)
            self._add(
                _Here(identifier=identifier, at=v["published_at"], has_time=v["has_time"], text=text,
                      is_of_this_file=True, row=number), v["url"] or "",
            )  # fmt: skip
            found.rows.append((row, identifier))

    def _made_up(self, v: dict[str, Any]) -> str:
        text, url = v["text"] or "", v["url"] or ""
        # Rows that say neither text nor address are as many posts as they are, told apart by their place.
        self._place = 0 if text or url else self.ordinals.next(self.profile, v["published_at"])
        return made_up_id(v["published_at"], text, url, self._place)

    def _made_up_again(self, v: dict[str, Any]) -> str:
        return made_up_id(v["published_at"], v["text"] or "", v["url"] or "", self._place)

    def _conflict(self, here: _Here, v: dict[str, Any], text: str, number: int) -> RowProblem | None:
        """Whether an identifier stands for two things: within a file exactly, against what is here by date and text."""
        apart = abs(here.at - v["published_at"])
        is_other_text = bool(text and here.text and not _same(text, here.text))
        if here.is_of_this_file:
            if apart <= SAME_MINUTE and not is_other_text:
                return None
            where = f"row {here.row:,}" if here.row else "an earlier row"
            what = "text" if apart <= SAME_MINUTE else "date"
            message = f"{where} has the same identifier with another {what}: an identifier stands for one post"
        elif apart > AROUND and (is_other_text or not text):
            message = f"this identifier belongs to a post of {here.at.date()} here, with another date and text"
        else:
            return None
        place = self.item.mapping.get("external_id", [0])[0]
        return RowProblem(row=number, column=self.item.header[place], message=message)

    def _by_address(self, v: dict[str, Any]) -> _Here | None:
        key = address_key(v["url"] or "")
        found = [here for here in self.by_address.get(key, ()) if key and abs(here.at - v["published_at"]) <= AROUND]
        free = [h for h in found if h.identifier not in self.claimed and not (v["external_id"] and h.is_of_this_file)]
        # A page that several posts lead to is nobody's own address: then the text must be the same too.
        if len(found) > 1:
            text = text_key(v["text"] or "")
            return next((h for h in free if text and _same(text, h.text)), None)
        return free[0] if free and not self._is_other(v, free[0]) else None

    def _is_other(self, v: dict[str, Any], here: _Here) -> bool:
        text = text_key(v["text"] or "")
        apart = abs(here.at - v["published_at"])
        return bool(text and here.text and not _same(text, here.text) and apart > SAME_MINUTE)

    def _by_words(self, v: dict[str, Any], text: str) -> _Here | None:
        at, fitting = v["published_at"], []
        if not text:
            return None
        if v["has_time"]:
            minute = int(at.timestamp()) // 60
            fitting = [h for m in (minute, minute - 1, minute + 1) for h in self.by_minute.get(m, ())]
            fitting = [h for h in fitting if abs(h.at - at) <= SAME_MINUTE]
            fitting += [h for h in self.by_day.get(at.astimezone(self.zone).date(), ()) if not h.has_time]
        else:
            fitting = self.by_day.get(at.astimezone(self.zone).date(), [])
        for here in fitting:
            is_free = here.identifier not in self.claimed and not (v["external_id"] and here.is_of_this_file)
            # Without an identifier of its own a short text counts only in the very same minute.
            if is_free and _same(text, here.text) and (len(text) >= SHORTEST_TEXT or abs(here.at - at) <= SAME_MINUTE):
                return here
        return None


def _same(text: str, other: str) -> bool:
    """Whether two texts are the same; exports cut long ones short."""
    if not text or not other:
        return text == other
    short, long = sorted((text, other), key=len)
    return short == long or (len(short) >= 40 and long.startswith(short))
