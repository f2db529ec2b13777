"""The makers of a workshop as Django's own accounts: put on the list, given another word, taken off it."""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from typing import NamedTuple

from django.contrib.auth.models import User
from django.db import IntegrityError, transaction
from django.db.models import QuerySet
from django.utils import timezone
from leannotch_core.said import Said

#: A name has at most so many letters, and a list so many names.
LONGEST, MOST = 60, 400

#: A word to come in is so many of these and a number of two digits: some 26 bits, and few may be tried in a while.
_SHORE = """
    anchor barge basin beach bight bollard breeze buoy cable canvas chart cliff cobble cockle compass coral cove
    crab creek current dinghy dock drift dune eddy estuary fathom fender ferry fjord flint float foam fog ford
    gale gannet groyne gull harbour haven heron horizon inlet island jetty kelp keel knot lagoon ledge lichen
    lugger marram marsh mast mist moor mussel oar oyster pebble pier plover plank puffin quay raft reed reef
    ridge rigging ripple river rudder sail salt sand sandbar seal shell shingle shoal skiff sluice spray squall
    stern surf tern tide tiller timber urchin wave weir whelk wharf wind winkle wrack yawl
"""
_PLAIN = _SHORE.split()
_WORDS = 3


#: Who is called so already, and is no maker.
TAKEN = ("the operator", "the workshop")


class NotOnTheList(Said):
    """A name or number that nobody on the list has, or a name that cannot be put on it; a sentence to show."""


class Card(NamedTuple):
    """What a maker is given to come in with: the only time that the word is known."""

    number: int
    name: str
    word: str


def is_there_a_list() -> bool:
    """Whether makers come in by names; without a list all of them share a word."""
    return User.objects.exists()


def listed() -> QuerySet[User]:
    return User.objects.all()


def put_on_the_list(names: Sequence[str]) -> list[Card]:
    """Each name once, with a word of its own; those of an empty name are passed over.

    Raises `NotOnTheList` where a name is there already, stands twice, or is too long; then nobody is put there.
    """
    wanted = [" ".join(name.split()) for name in names if name.strip()]
    if not wanted:
        raise NotOnTheList("Type at least one name, one in a line.")
    known = {one.username.casefold() for one in User.objects.all()}
    if len(known) + len(wanted) > MOST:
        raise NotOnTheList(f"{len(known) + len(wanted)} makers are more than the {MOST} that a list holds.")
    for name in wanted:
        if len(name) > LONGEST:
            raise NotOnTheList(f"“{name[:LONGEST]}…” has {len(name)} letters; a name has at most {LONGEST}.")
        if name.casefold() in TAKEN:
            raise NotOnTheList(f"“{name}” is somebody else here; a maker needs another name.")
        if name.casefold() in known:
            raise NotOnTheList(f"There is a {name} already; add something that tells the two apart.")
        known.add(name.casefold())
    # A word is long in the making, and nothing is held for it meanwhile.
    made = [_with_a_word(User(username=name)) for name in wanted]
    try:
        with transaction.atomic():
            for maker, _ in made:
                maker.save()
    except IntegrityError as both:
        raise NotOnTheList("Somebody has just put one of these names on the list; look at it again.") from both
    return [Card(maker.pk, maker.username, word) for maker, word in made]


def renewed(number: int) -> Card:
    """Another word for a maker; with the one before nobody comes in any more. Raises `NotOnTheList`."""
    maker, word = _with_a_word(known(number))
    maker.save(update_fields=["password"])
    return Card(maker.pk, maker.username, word)


def take_off_the_list(number: int) -> str:
    """Answers the name that went. Raises `NotOnTheList`."""
    maker = known(number)
    maker.delete()
    return maker.username


def known(number: int) -> User:
    """Raises `NotOnTheList`."""
    found = User.objects.filter(pk=number).first()
    if found is None:
        raise NotOnTheList("That maker is not on the list any more.")
    return found


def name_of(number: int | None) -> str:
    """What others call a maker; without a number it is the operator."""
    found = User.objects.filter(pk=number).values_list("username", flat=True).first() if number is not None else None
    return found or "the operator"


def on_the_list(name: str) -> User | None:
    """The maker of a name, however it is capitalised and spaced."""
    wanted = " ".join(name.split()).casefold()
    # A database knows capitals of few alphabets.
    return next((one for one in User.objects.all() if one.username.casefold() == wanted), None)


def who_says(name: str, word: str) -> User | None:
    """The maker who comes in by a name, however it is capitalised and spaced, and a word."""
    found = on_the_list(name)
    # As long where there is no such name: how long an answer takes tells nobody who is on the list.
    right = (found or User(password=_NOBODY)).check_password(word.strip().casefold())
    return found if right and found else None


def came_in(maker: User) -> None:
    """Notes that a maker is here."""
    User.objects.filter(pk=maker.pk).update(last_login=timezone.now())


def _with_a_word(maker: User) -> tuple[User, str]:
    word = f"{'-'.join(secrets.choice(_PLAIN) for _ in range(_WORDS))}-{secrets.randbelow(90) + 10}"
    maker.set_password(word)
    return maker, word


#: What nobody's word is.
_NOBODY = "!"
