"""Projects and files that were deleted long ago are taken away, with all that belongs to them."""

from __future__ import annotations

from aside.deletable import over, take_away

from workshop.models import BroughtFile, Revision, Run, StoredProject


def take_away_what_is_over() -> int:
    """Answers how many projects went."""
    take_away(over(BroughtFile.objects.all()))
    gone = over(StoredProject.objects.all())
    for project in gone:
        StoredProject.objects.filter(id=project.id).update(current=None)
        # No row goes before those that came of it.
        take_away(Run.objects.filter(project=project))
        take_away(Revision.objects.filter(project=project))
        project.delete()
    return len(gone)
