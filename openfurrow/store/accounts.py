"""Accounts and sign-ins. Passwords are kept as argon2 hashes, tokens as SHA-256.

Hashing takes a tenth of a second and tens of megabytes on purpose: it is done between transactions, a
few at a time.
"""

import hashlib
import os
import secrets
import threading
from collections.abc import Callable
from contextlib import AbstractContextManager
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from argon2 import PasswordHasher
from argon2.exceptions import VerificationError
from sqlalchemy import case, delete, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from openfurrow.store.errors import StoreError, TooMany
from openfurrow.store.tables import Account, SignIn, SignInTry
from openfurrow.store.turns import turn

SIGN_IN_LASTS = timedelta(days=30)
SHORTEST_PASSWORD = 8
LONGEST_NAME = 80
# Tries within this time are counted together: for one name from one address, from one address for any
# name, and for one name from anywhere. Right passwords are not counted.
TRIES_WITHIN = timedelta(minutes=15)
MOST_FOR_BOTH, MOST_FROM_ADDRESS, MOST_FOR_NAME = 10, 60, 200
HASH_WAITS_S = 10.0
_hasher = PasswordHasher()
_hashing = threading.BoundedSemaphore(max(1, (os.cpu_count() or 2) // 2))
# Checked when no account has the name, so that a wrong name takes as long as a wrong password.
_NOBODY = _hasher.hash(secrets.token_hex(16))

Transaction = Callable[[], AbstractContextManager[Session]]


def _turn() -> AbstractContextManager[None]:
    return turn(_hashing, HASH_WAITS_S, "Too many sign in at once: try again in a moment.")


def _hash(password: str) -> str:
    with _turn():
        return _hasher.hash(password)


def _is_right(kept: str, password: str) -> bool:
    with _turn():
        try:
            return _hasher.verify(kept, password)
        except VerificationError:
            return False


def hashed_password(name: str, password: str) -> tuple[str, str]:
    """The name as it is kept and the password's hash. Raises StoreError for what cannot be either."""
    name = name.strip()
    if not 1 <= len(name) <= LONGEST_NAME:
        raise StoreError(f"A name has 1 to {LONGEST_NAME} letters.")
    if len(password) < SHORTEST_PASSWORD:
        raise StoreError(f"A password has at least {SHORTEST_PASSWORD} letters.")
    return name, _hash(password)


def add_account(session: Session, name: str, password_hash: str) -> Account:
    """A new account. Raises StoreError for a taken name."""
    account = Account(name=name, password_hash=password_hash)
    try:
        with session.begin_nested():
            session.add(account)
            session.flush()
    except IntegrityError:
        raise StoreError("That name is taken: choose another.") from None
    return account


def create_account(session: Session, name: str, password: str) -> Account:
    """A new account, hashed within the transaction: for filling a store, not for requests."""
    return add_account(session, *hashed_password(name, password))


@dataclass(frozen=True)
class _Count:
    who: str
    most: int


def _counts(name: str, address: str) -> tuple[_Count, ...]:
    # Kept as hashes: the table tells nobody who tried to sign in.
    def key(*parts: str) -> str:
        return hashlib.sha256("\0".join(parts).encode("utf-8", "replace")).hexdigest()

    counts = (
        _Count(key("both", name, address), MOST_FOR_BOTH),
        _Count(key("address", address), MOST_FROM_ADDRESS),
        _Count(key("name", name), MOST_FOR_NAME),
    )
    # One order for all: two that lock the same rows must not wait for each other.
    return tuple(sorted(counts, key=lambda count: count.who))


def _count_try(session: Session, name: str, address: str) -> None:
    """Count a try before it is looked at, so that many at once are counted too. Raises TooMany."""
    now = datetime.now(UTC)
    old = select(SignInTry.who).where(SignInTry.since < now - TRIES_WITHIN)
    session.execute(delete(SignInTry).where(SignInTry.who.in_(old.with_for_update(skip_locked=True))))
    for count in _counts(name, address):
        row = insert(SignInTry).values(who=count.who, since=now, wrong=1)
        wrong, since = session.execute(
            row.on_conflict_do_update(
                index_elements=["who"],
                set_={
                    "wrong": case(
                        (SignInTry.wrong > count.most, SignInTry.wrong), else_=SignInTry.wrong + 1
                    )
                },
            ).returning(SignInTry.wrong, SignInTry.since)
        ).one()
        if wrong > count.most:
            raise TooMany(max(1, round((since + TRIES_WITHIN - now).total_seconds())))


def _forget_try(session: Session, name: str, address: str) -> None:
    """A right password: its own try is not counted, wrong ones of this name from here are forgiven."""
    for count in _counts(name, address):
        forgiven = 0 if count.most == MOST_FOR_BOTH else SignInTry.wrong - 1
        session.execute(
            update(SignInTry)
            .where(SignInTry.who == count.who, SignInTry.wrong > 0)
            .values(wrong=forgiven)
        )


def sign_in(transaction: Transaction, name: str, password: str, address: str) -> str:
    """A token for a right name and password. Raises StoreError for a wrong one, TooMany."""
    name = name.strip()
    with transaction() as session:
        _count_try(session, name, address)
        found = session.execute(
            select(Account.id, Account.password_hash).where(Account.name == name)
        ).first()
    right = _is_right(found.password_hash if found else _NOBODY, password)
    if found is None or not right:
        raise StoreError("Name and password do not match.")
    with transaction() as session:
        _forget_try(session, name, address)
        return open_sign_in(session, found.id)


def open_sign_in(session: Session, account_id: int) -> str:
    """A token for an account that has shown its password; those that have run out are forgotten."""
    token = secrets.token_urlsafe(32)
    now = datetime.now(UTC)
    session.execute(delete(SignIn).where(SignIn.expires_at < now))
    session.add(
        SignIn(token_hash=token_hash(token), account_id=account_id, expires_at=now + SIGN_IN_LASTS)
    )
    return token


def account_of(session: Session, token: str) -> Account | None:
    """The account behind a token, if it is still good."""
    return session.scalar(
        select(Account)
        .join(SignIn, SignIn.account_id == Account.id)
        .where(SignIn.token_hash == token_hash(token), SignIn.expires_at > datetime.now(UTC))
    )


def sign_out(session: Session, token: str) -> None:
    """Forget a token."""
    session.execute(delete(SignIn).where(SignIn.token_hash == token_hash(token)))


def token_hash(token: str) -> str:
    """What is kept of a token: who reads the database cannot sign in with it."""
    return hashlib.sha256(token.encode("utf-8", "replace")).hexdigest()
