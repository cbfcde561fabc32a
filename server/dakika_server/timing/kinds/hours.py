"""timing.hours: what an hour of the week is worth to a profile, and how sure that is."""

from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure, Interval
from rest_framework import serializers

from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, Series, cell_of
from dakika_server.figures.study import LARGEST_KEY, Study, kind_asked
from dakika_server.results.tables import WEEKDAYS
from dakika_server.shared import clock
from dakika_server.timing.estimating import Answer, answer_to
from dakika_server.timing.questions import BRAND, COMPETITORS, WANTED, Question, question_of

INDEX = (
    "What a post at this hour gets, divided by what the profile's posts get at the hours used so far; 1.00 is the "
    "usual. Format and profile are held the same; hours lend one another strength."
)


class HoursParameters(serializers.Serializer[Any]):
    """What is asked of hours beside the study's profiles, formats and tags; see QuestionSerializer."""

    whose = serializers.ChoiceField(choices=[BRAND, COMPETITORS], required=False)
    set = serializers.IntegerField(required=False, min_value=1, max_value=LARGEST_KEY)
    of = serializers.ChoiceField(choices=list(WANTED), default="interactions")
    zone = serializers.CharField(required=False, max_length=64)


def answer_of(study: Study, params: dict[str, Any]) -> tuple[Question | None, Answer | None]:
    """The question of a study, and its estimate; None where there is no profile to ask about."""
    values = {
        **params, "profile": study.profiles_asked, "network": study.networks, "format": study.formats, "tag": study.tags
    }  # fmt: skip
    question = question_of(study.brand, values, clock.now())
    return question, answer_to(question) if question else None


class OfHours(FigureKind):
    """What is told of a question of hours."""

    params = HoursParameters

    def whose(self, values: dict[str, Any]) -> str | None:
        """A competitor's week too, where its profile is named."""
        return None if values.get("whose") == COMPETITORS or values.get("set") else kind_asked(values)


class WeekHours(OfHours):
    """The week of a question: of the profiles studied, else of the own one that published most."""

    key, name = "timing.hours", "Hours of the week"

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """168 hours, Monday first, each with its 95 % interval."""
        question, answer = answer_of(study, params)
        if question is None or answer is None or not answer.is_by_posts:
            return FigureSet(title="Too few posts to say anything of hours", cells=[])
        e = answer.effects
        cells = [
            Cell(key=str(h), name=f"{WEEKDAYS[h // 24]} {h % 24:02d}:00", unit=Unit.INDEX, row=WEEKDAYS[h // 24],
                 column=f"{h % 24:02d}:00",
                 now=Figure(value=float(e.index[h]), n=int(e.nearby[h]),
                            interval=Interval(low=float(e.low95[h]), high=float(e.high95[h]))))
            for h in range(len(e.index))
        ]  # fmt: skip
        return FigureSet(
            title=f"Hours of {_who(question)}" if e.has_effect else f"No hour of {_who(question)} stands out yet",
            cells=cells, made=(question, answer), definitions=[("index", INDEX)],
            note="Hours with few posts nearby rest on what is known of the others." if e.has_effect else
            "What is shown may be chance.",
            series=[
                Series(key=key, name=name, unit=Unit.INDEX, places=[cell.name for cell in cells],
                       values=[float(v) for v in values])
                for key, name, values in (("index", "index", e.index), ("low", "low, 95 %", e.low95),
                                          ("high", "high, 95 %", e.high95))
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """What presence alone would have of it, and what posts make of that."""
        made = self.compute(study, params)
        one = cell_of(made, cell)
        question, answer = made.made
        e, hour, untimed = answer.effects, int(cell), answer.facts["untimed"]
        presence = float(e.by_presence[hour])
        return Basis(
            key=cell, name=f"{one.name}, index", unit=Unit.INDEX, definition=INDEX, figure=one.now, rule=Rule.PRODUCT,
            parts=[
                Part(key="presence", name="by how many of the audience are there", value=presence),
                Part(key="posts", name="by what posts did", value=float(e.index[hour]) / presence),
            ],
            parts_name="factor", interval_of="posts and what is known beforehand together",
            counted=f"{e.posts:,} posts, {one.now.n:,} within two hours of it",
            missing=f"{untimed:,} posts of which only the day is known." if untimed else "",
            note=("" if e.has_effect else "No hour can be told from chance yet. ")
            + f"{float(e.from_posts[hour]):.0%} of it rests on posts, the rest on what is known beforehand.",
            of_profile=question.one.pk if question.one else None, days="The half-year up to the newest post",
            behind=Behind(
                path=f"timing?profile={','.join(str(p.pk) for p in question.profiles)}", name="The week and its posts"
            ),
        )  # fmt: skip


def _who(question: Question) -> str:
    return question.one.name if question.one else f"{len(question.profiles)} profiles"
