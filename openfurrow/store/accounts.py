"""Accounts and sign-ins. Passwords are kept as argon2 hashes, tokens as SHA-256."""

import hashlib
import secrets
from datetime import UTC, datetime, timedelta

from argon2 import PasswordHasher
from argon2.exceptions import VerificationError
from sqlalchemy import delete, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from openfurrow.store.errors import StoreError
from openfurrow.store.tables import Account, SignIn

SIGN_IN_LASTS = timedelta(days=30)
SHORTEST_PASSWORD = 8
_hasher = PasswordHasher()
# Checked when no account has the name, so that a wrong name takes as long as a wrong password.
_NOBODY = _hasher.hash(secrets.token_hex(16))


def create_account(session: Session, name: str, password: str) -> Account:
    """A new account. Raises StoreError for a taken or empty name or a short password."""
    name = name.strip()
    if not 1 <= len(name) <= 80:
        raise StoreError("A name has 1 to 80 letters.")
    if len(password) < SHORTEST_PASSWORD:
        raise StoreError(f"A password has at least {SHORTEST_PASSWORD} letters.")
    account = Account(name=name, password_hash=_hasher.hash(password))
    try:
        with session.begin_nested():
            session.add(account)
            session.flush()
    except IntegrityError:
        raise StoreError("That name is taken: choose another.") from None
    return account


def sign_in(session: Session, name: str, password: str) -> str:
    """A token for a right name and password; StoreError for a wrong one."""
    account = session.scalar(select(Account).where(Account.name == name.strip()))
    try:
        _hasher.verify(account.password_hash if account else _NOBODY, password)
    except VerificationError:
        account = None
    if account is None:
        raise StoreError("Name and password do not match.")
    token = secrets.token_urlsafe(32)
    session.execute(delete(SignIn).where(SignIn.expires_at < datetime.now(UTC)))
    session.add(
        SignIn(
            token_hash=_hashed(token),
            account_id=account.id,
            expires_at=datetime.now(UTC) + SIGN_IN_LASTS,
        )
    )
    return token


def account_of(session: Session, token: str) -> Account | None:
    """The account behind a token, if it is still good."""
    return session.scalar(
        select(Account)
        .join(SignIn, SignIn.account_id == Account.id)
        .where(SignIn.token_hash == _hashed(token), SignIn.expires_at > datetime.now(UTC))
    )


def sign_out(session: Session, token: str) -> None:
    """Forget a token."""
    session.execute(delete(SignIn).where(SignIn.token_hash == _hashed(token)))


def _hashed(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
