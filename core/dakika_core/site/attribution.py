"""Who brought the conversions? Eight answers side by side, each giving every conversion away exactly once.

A path is what one visitor touched before converting, the oldest first. Models by metrics.md of the
design: last, last non-direct and first click, linear, position based 40/20/40, time decay with a
half-life of seven days (both common practice, no source), Shapley values over channels, and the
removal effect of an absorbing Markov chain. Value is counted in cents; what does not divide evenly
goes by largest remainder, so that the credits of a model sum to the value to the last cent.

In the trade's words: multi-touch attribution, first touch, last touch, time decay, Markov chain, Shapley value.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import combinations
from math import factorial

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
DIRECT = "direct"
HALF_LIFE_DAYS = 7.0
ENDS_SHARE = 0.4


class Model(StrEnum):
    """How a conversion is given away."""

    LAST = "last"
    LAST_NON_DIRECT = "last_non_direct"
    FIRST = "first"
    LINEAR = "linear"
    POSITION = "position"
    DECAY = "decay"
    SHAPLEY = "shapley"
    MARKOV = "markov"


@dataclass(frozen=True, kw_only=True)
class Path:
    """Channels touched, the oldest first, how many days before the end each was, and what came of it.

    `cents` is the conversion's value; a path without a conversion tells the Markov model what leads nowhere.
    """

    touches: tuple[str, ...]
    ages_days: tuple[float, ...]
    cents: int = 0
    is_converted: bool = True

    def __post_init__(self) -> None:
        if len(self.touches) != len(self.ages_days) or not self.touches:
            raise ValueError("a path has an age for each of its touches, and at least one")


@dataclass(frozen=True, kw_only=True)
class Credit:
    """What a model gives a channel: conversions (parts of them) and cents (whole ones)."""

    count: float
    cents: int


def credits_of(paths: Sequence[Path], model: Model) -> dict[str, Credit]:
    """Credits by channel. They sum to the number and to the value of the paths that converted."""
    names = sorted({name for path in paths for name in path.touches})
    place = {name: i for i, name in enumerate(names)}
    won = [path for path in paths if path.is_converted]
    counts, cents = np.zeros(len(names)), np.zeros(len(names))
    if won and model is Model.MARKOV:
        shares = _markov_shares(paths, place)
        counts, cents = shares * len(won), shares * sum(path.cents for path in won)
    elif won:
        for path in won:
            _give(path, model, place, counts, cents)
    whole = rounded(cents, sum(path.cents for path in won))
    return {name: Credit(count=float(counts[i]), cents=int(whole[i])) for name, i in place.items()}


def all_credits(paths: Sequence[Path]) -> dict[Model, dict[str, Credit]]:
    """Every model's answer."""
    return {model: credits_of(paths, model) for model in Model}


def _give(path: Path, model: Model, place: Mapping[str, int], counts: Array, cents: Array) -> None:
    names = sorted(set(path.touches)) if model is Model.SHAPLEY else path.touches
    for name, weight in zip(names, weights_of(path, model), strict=True):
        if weight:
            counts[place[name]] += weight
            cents[place[name]] += weight * path.cents


def weights_of(path: Path, model: Model) -> list[float]:
    """How one conversion is divided among its touches (Shapley: among its distinct channels, by name). Sums to 1.

    For Shapley values each conversion is a unanimity game: worth 1 to every set of channels that
    holds all of its own. A sum of such games has a closed form, the equal share of each (Shapley 1953).
    """
    count = len(path.touches)
    if model is Model.SHAPLEY:
        distinct = len(set(path.touches))
        return [1 / distinct] * distinct
    if model is Model.LINEAR:
        return [1 / count] * count
    if model is Model.DECAY:
        halves = [2.0 ** (-age / HALF_LIFE_DAYS) for age in path.ages_days]
        total = sum(halves)
        return [half / total for half in halves] if total > 0 else weights_of(path, Model.LAST)
    if model is Model.POSITION:
        if count <= 2:
            return [1 / count] * count
        middle = (1 - 2 * ENDS_SHARE) / (count - 2)
        return [ENDS_SHARE, *[middle] * (count - 2), ENDS_SHARE]
    at = {Model.FIRST: 0, Model.LAST: count - 1, Model.LAST_NON_DIRECT: _last_non_direct(path.touches)}[model]
    return [float(i == at) for i in range(count)]


def _last_non_direct(touches: Sequence[str]) -> int:
    for i in range(len(touches) - 1, -1, -1):
        if touches[i] != DIRECT:
            return i
    return len(touches) - 1


def _markov_shares(paths: Sequence[Path], place: Mapping[str, int]) -> Array:
    """Each channel's share of the removal effects; equal shares where no removal changes anything."""
    effects = removal_effects(paths, place)
    total = effects.sum()
    if total <= 0:
        touched = np.zeros(len(place))
        for path in paths:
            if path.is_converted:
                for name in set(path.touches):
                    touched[place[name]] += 1 / len(set(path.touches))
        effects, total = touched, touched.sum()
    return np.asarray(effects / total)


def removal_effects(paths: Sequence[Path], place: Mapping[str, int]) -> Array:
    """By how much the chance of converting falls when a channel leads nowhere: shape (channels,), from 0 to 1.

    States are the start, the channels, and two ends. With N the fundamental matrix (Kemeny and
    Snell) and b the chance of converting from each state, those who ever reach channel i are
    N[start, i] / N[i, i], and they convert with b[i]: one inversion serves all channels.
    """
    n = len(place)
    moves, wins = np.zeros((n + 1, n + 1)), np.zeros(n + 1)
    leaves = np.zeros(n + 1)
    for path in paths:
        at = n
        for name in path.touches:
            to = place[name]
            moves[at, to] += 1
            at = to
        (wins if path.is_converted else leaves)[at] += 1
    out = moves.sum(axis=1) + wins + leaves
    out[out == 0] = 1
    inside, end = moves / out[:, None], wins / out
    reached = np.linalg.inv(np.eye(n + 1) - inside)
    chance = reached @ end
    if chance[n] <= 0:
        return np.zeros(n)
    ever = reached[n, :n] / np.diag(reached)[:n]
    return np.asarray(np.clip(ever * chance[:n] / chance[n], 0.0, 1.0))


def shapley_values(players: Sequence[str], worth: Callable[[frozenset[str]], float]) -> dict[str, float]:
    """Shapley values of any game, by its definition: exponential in the players, for some dozen at most.

    Raises ValueError for more than 16 players.
    """
    n = len(players)
    if n > 16:
        raise ValueError("the definition is not to be computed for more than 16 players")
    values = {}
    for player in players:
        others = [other for other in players if other != player]
        total = 0.0
        for size in range(n):
            weight = factorial(size) * factorial(n - size - 1) / factorial(n)
            for group in combinations(others, size):
                without = frozenset(group)
                total += weight * (worth(without | {player}) - worth(without))
        values[player] = total
    return values


def rounded(parts: Array, total: int) -> NDArray[np.int64]:
    """Whole numbers near the parts that sum to `total` (largest remainder)."""
    floor = np.floor(parts + 1e-9).astype(np.int64)
    missing = total - int(floor.sum())
    if missing > 0 and len(parts):
        order = np.argsort(-(parts - floor), kind="stable")
        for i in range(missing):
            floor[order[i % len(order)]] += 1
    return floor
