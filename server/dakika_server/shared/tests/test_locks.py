"""Promise: no two locks of different kinds are the same to the database, and one is held until it is given back."""

from itertools import combinations, pairwise

import psycopg
import pytest
from django.db import connection

from dakika_server.shared.locks import NUMBER_BITS, Lock, key_of, number_of, tried, waited_for

EDGES = [0, 1, 2**31, 2**32, 2**NUMBER_BITS - 1]


def test_keys_never_collide() -> None:
    keys = [key_of(lock, number) for lock in Lock for number in EDGES]
    assert len(set(keys)) == len(keys)
    assert all(-(2**63) <= key < 2**63 for key in keys)
    for one, two in combinations(Lock, 2):
        assert key_of(one, EDGES[-1]) < key_of(two, 0) or key_of(two, EDGES[-1]) < key_of(one, 0)
    assert all(a < b for a, b in pairwise(sorted(keys)))


@pytest.mark.parametrize("number", [-1, 2**NUMBER_BITS])
def test_a_number_that_does_not_fit_is_refused(number: int) -> None:
    with pytest.raises(ValueError, match="no number"):
        key_of(Lock.ACCESS_LOG, number)


def test_what_has_no_number_gets_one_that_fits() -> None:
    assert 0 <= number_of(b"commons 0") < 2**NUMBER_BITS
    assert number_of(b"commons 0") != number_of(b"commons 1")


@pytest.mark.django_db
def test_a_lock_is_held_for_the_block_and_by_one() -> None:
    told = connection.get_connection_params()
    keys = {k: told[k] for k in ("dbname", "user", "password", "host", "port") if told.get(k)}
    with psycopg.connect(**keys, autocommit=True) as other:

        def is_free(lock: Lock, number: int) -> bool:
            key = key_of(lock, number)
            found = other.execute("SELECT pg_try_advisory_lock(%s)", [key]).fetchone()
            if found and found[0]:
                other.execute("SELECT pg_advisory_unlock(%s)", [key])
            return bool(found and found[0])

        with tried(Lock.ACCESS_LOG, 7) as is_ours:
            assert is_ours
            assert not is_free(Lock.ACCESS_LOG, 7)
            assert is_free(Lock.BRAND_FINDINGS, 7)
            assert is_free(Lock.ACCESS_LOG, 8)
        assert is_free(Lock.ACCESS_LOG, 7)
        with waited_for(Lock.PROFILE_MEASURES, 7):
            assert not is_free(Lock.PROFILE_MEASURES, 7)
        assert is_free(Lock.PROFILE_MEASURES, 7)
