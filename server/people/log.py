"""What was done in the workshop beside the steps of projects, for the operator: who, what and when."""

from __future__ import annotations

from shown.desk import DeedKind

from people import accounts
from people.asking import maker_asking
from people.models import Deed

#: So many are kept, the latest.
KEPT = 20_000


def note(kind: DeedKind, to: str = "", more: str = "", slug: str = "", who: str | None = None) -> None:
    """Notes something that whoever asks has done, or ``who`` it was."""
    maker = maker_asking.get()
    name = who if who is not None else accounts.name_of(maker) if maker is not None else ""
    Deed.objects.create(who=name[:60], kind=kind, to=to[:120], more=more[:400], slug=slug[:80])


def forget_the_oldest() -> int:
    """Those beyond what is kept go; answers how many."""
    last = Deed.objects.order_by("-pk").values_list("pk", flat=True)[KEPT : KEPT + 1]
    return Deed.objects.filter(pk__lte=last[0]).delete()[0] if last else 0
