"""Tokens that stand in an address and open something for whoever holds it; only their hash is stored."""

from __future__ import annotations

import hashlib
import secrets

__all__ = ["hash_of", "new_token"]


def new_token() -> str:
    """A token that can't be guessed, of letters that an address may hold."""
    return secrets.token_urlsafe(24)


def hash_of(token: str) -> str:
    """What is stored of a token, and looked up by."""
    return hashlib.sha256(token.encode()).hexdigest()
