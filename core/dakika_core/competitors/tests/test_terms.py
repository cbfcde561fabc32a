"""Promise: terms are weighed as the reference library weighs them, in any script, and those that go together are one topic."""

import numpy as np
import pytest
from sklearn.feature_extraction.text import CountVectorizer, TfidfTransformer

from dakika_core.competitors.terms import term_weights, topics_of, words_of


def test_weights_against_scikit_learn() -> None:
    """scikit-learn's TfidfTransformer with its defaults (smoothed idf, Euclidean norm)."""
    texts = ["the clock strikes", "the star and the clock", "a ship at night", "night of the stars", ""]
    counts = CountVectorizer().fit_transform(texts)
    assert term_weights(counts).toarray() == pytest.approx(TfidfTransformer().fit_transform(counts).toarray())


def test_words_are_letters_of_any_script_without_addresses_mentions_and_hashtags() -> None:
    assert words_of("Die Uhr schlägt: https://x.example/tick #Uhren @mira 42 it's") == ["die", "uhr", "schlägt", "it's"]
    assert words_of("Ночные огни") == ["ночные", "огни"]
    assert words_of("\u202e\x00 😀😀") == []


def test_words_of_the_same_posts_are_one_topic_and_others_another() -> None:
    rng = np.random.default_rng(1)
    texts = ["pendulum escapement repaired " + " ".join(rng.choice(list("qwrtz"), 3)) for _ in range(12)]
    texts += ["telescope saturn tonight"] * 12 + [f"filler{i} words" for i in range(40)]
    found = topics_of(texts, [i % 3 for i in range(len(texts))])
    groups = {frozenset(topic.terms) for topic in found}
    assert frozenset({"pendulum", "escapement", "repaired"}) in groups
    assert frozenset({"telescope", "saturn", "tonight"}) in groups
    clock = next(topic for topic in found if "pendulum" in topic.terms)
    assert clock.posts.tolist() == list(range(12))


def test_words_of_the_language_alone_are_left_out_where_somebody_knows_them() -> None:
    texts = ["with pendulum"] * 6 + [f"filler{i}" for i in range(14)]
    found = topics_of(texts, [i % 2 for i in range(20)], stop_words=lambda words: frozenset({"with"}) & set(words))
    assert [topic.terms for topic in found] == [("pendulum",)]


def test_what_one_profile_alone_says_and_what_everybody_says_is_no_topic() -> None:
    texts = ["motto always"] * 10 + [f"common word{i}" for i in range(10)]
    assert topics_of(texts, [1] * 10 + [2] * 10) == []
    assert topics_of([], []) == []
