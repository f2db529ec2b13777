"""What the proof found, kept with the state that it was made of: it stands for as long as that and the program do."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from functools import cache
from pathlib import Path

import leannotch_core
import zstandard
from leannotch_core.facts.findings import Finding
from leannotch_core.handover.proof_findings import proof_findings
from pydantic import TypeAdapter
from shown.prove import ProofShown, ProofStands

from workshop.models import Proved, StoredProject
from workshop.revisions import document_of, result_of

#: So many proofs of a project are kept, for steps back and forth.
_KEPT = 12

_FINDINGS = TypeAdapter(list[Finding])


@cache
def _this_program() -> str:
    """What proved: a proof by other rules than today's says nothing of today's files."""
    sources = sorted(Path(leannotch_core.__file__).parent.rglob("*.py"))
    return hashlib.sha256(b"".join(source.read_bytes() for source in sources)).hexdigest()


def keep(project: StoredProject, revision: int, shown: ProofShown) -> None:
    """Remembers the proof of a state in place of an earlier one; the oldest of the project's are let go of."""
    findings = proof_findings(document_of(revision), result_of(revision), shown.sheets)
    Proved.objects.filter(project=project, revision=revision).delete()
    Proved.objects.create(
        project=project,
        revision=revision,
        program=_this_program(),
        parts=sum(len(sheet.parts) for sheet in shown.sheets),
        faults=sum(len(sheet.faults) for sheet in shown.sheets),
        findings=_FINDINGS.dump_json(findings).decode(),
        shown=zstandard.ZstdCompressor(3).compress(shown.model_dump_json().encode()),
    )
    late = Proved.objects.filter(project=project).values_list("id", flat=True)[:_KEPT]
    Proved.objects.filter(project=project).exclude(id__in=list(late)).delete()


def _of(revision: int) -> Proved | None:
    return Proved.objects.filter(revision=revision, program=_this_program()).first()


def kept(project: StoredProject, revision: int) -> ProofShown | None:
    """The proof of a state, if it was proved, as that of the version which the project has now."""
    proved = _of(revision)
    if proved is None:
        return None
    shown = ProofShown.model_validate_json(zstandard.ZstdDecompressor().decompress(bytes(proved.shown)))
    return shown.model_copy(update={"version": project.version})


def findings(revision: int) -> list[Finding]:
    """What the proof of a state found; nothing where it was not proved."""
    proved = _of(revision)
    return _FINDINGS.validate_json(proved.findings) if proved else []


def stands(project: StoredProject, revision: int) -> ProofStands | None:
    """Whether a project was proved as it is now; else when it last was; None where it never was."""
    proofs = Proved.objects.filter(project=project, program=_this_program()).defer("findings", "shown")
    proved = next((proof for proof in proofs if proof.revision == revision), None) or next(iter(proofs), None)
    if proved is None:
        return None
    now = proved.revision == revision
    return ProofStands(when=proved.created, parts=proved.parts, faults=proved.faults, now=now)


def faults_of(revisions: Sequence[int]) -> dict[int, int]:
    """How many faults the states have that were proved, by their revisions."""
    proofs = Proved.objects.filter(revision__in=revisions, program=_this_program())
    return dict(proofs.values_list("revision", "faults"))
