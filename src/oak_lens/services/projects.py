"""Projects: opened, edited, undone, redone, copied, deleted and brought back."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from ..core.document import Document
from ..core.edits import Change, Edit, apply_edits, changed_parts, difference, label_of, parse_edits, present_parts
from ..core.edits.film import SetTitle, set_title
from ..core.errors import Conflict, Fault, InvalidEdit, NotFound
from .ports import EditEntry, OpenProject, ProjectHead, ProjectStore, VersionHead


@dataclass(frozen=True, slots=True)
class Edited:
    """The outcome of a step: the project's new revision, the document before (None: it was done earlier) and after it, and what changed."""

    revision: int
    before: Document | None
    document: Document
    change: Change
    undo: str | None
    redo: str | None


def _owned(head: ProjectHead, who: str) -> None:
    # Somebody else's project is answered like one that does not exist.
    if head.owner != who:
        raise NotFound([Fault("project.not_found", "", "There is no such project.")])


class Projects:
    """What people do with projects. Every call names who is asking."""

    def __init__(self, store: ProjectStore, bring: Callable[[Document], None] = lambda document: None):
        """`bring`: makes what a document shows and does not come from a file be there before it is kept."""
        self._store, self._bring = store, bring

    def listed(self, who: str) -> list[ProjectHead]:
        return self._store.heads(who)

    def create(self, who: str, edits: list[Any], title: str) -> ProjectHead:
        """A new project, made by the same edits as everything else."""
        document = set_title(Document(), SetTitle(title=title))
        if edits:
            document = apply_edits(document, parse_edits(edits))
        self._bring(document)
        return self._store.create(who, document)

    def copy(self, who: str, project: str) -> ProjectHead:
        _, document = self.read(who, project)
        return self._store.create(who, set_title(document, SetTitle(title=f"{document.title[:190]} (copy)")))

    def read(self, who: str, project: str) -> tuple[ProjectHead, Document]:
        head, document = self._store.read(project)
        _owned(head, who)
        if head.deleted is not None:
            raise NotFound([Fault("project.deleted", "", "This project has been deleted. Bring it back from the projects page.")])
        return head, document

    def labels(self, who: str, project: str) -> tuple[str | None, str | None]:
        with self._store.hold(project) as held:
            _owned(held.head, who)
            return held.labels()

    def edit(self, who: str, project: str, base: int, edits: list[Any], request: str | None = None) -> Edited:
        """Apply edits as one step. `request` names it: asked for again, since its answer did not arrive, it is not done twice.

        `base` is the revision they were made on. If others changed other parts since, the edits apply to the newest document; if
        they changed the same parts, Conflict is raised and nothing is stored. Raises InvalidEdit.
        """
        parsed = parse_edits(edits)
        with self._store.hold(project) as held:
            _owned(held.head, who)
            return self._done(held, request) or self._record(held, who, base, parsed, request)

    def _done(self, held: OpenProject, request: str | None) -> Edited | None:
        """What a step that was done already has changed, as it is now."""
        parts = held.parts_of_request(request) if request else None
        if parts is None:
            return None
        change = present_parts(held.document, parts)
        return Edited(held.head.revision, None, held.document, change, *held.labels())

    def _record(self, held: OpenProject, who: str, base: int, edits: list[Edit], request: str | None) -> Edited:
        before = held.document
        after = apply_edits(before, edits)
        forward = difference(before, after)
        if base > held.head.revision:
            raise InvalidEdit([Fault("edit.base", "base", "These edits were made on a revision that does not exist.")])
        if base < held.head.revision:
            others = held.parts_changed_since(base)
            if others is None or others & changed_parts(forward):
                raise Conflict(
                    [
                        Fault(
                            "edit.conflict",
                            "base",
                            "The same thing was changed in another window meanwhile. The newest state is shown now; make the change again if you still want it.",
                        )
                    ]
                )
        if forward.is_empty:
            return Edited(held.head.revision, before, before, forward, *held.labels())
        self._bring(after)
        entry = EditEntry(label_of(edits), forward, difference(after, before))
        revision = held.record(entry, who, after, request)
        # What was undone before is gone.
        return Edited(revision, before, after, forward, entry.label, None)

    def undo(self, who: str, project: str, request: str | None = None) -> Edited:
        return self._step(who, project, True, request)

    def redo(self, who: str, project: str, request: str | None = None) -> Edited:
        return self._step(who, project, False, request)

    def _step(self, who: str, project: str, undo: bool, request: str | None) -> Edited:
        with self._store.hold(project) as held:
            _owned(held.head, who)
            if (done := self._done(held, request)) is not None:
                return done
            found = held.undoable() if undo else held.redoable()
            if found is None:
                raise InvalidEdit([Fault("edit.nothing", "", "There is nothing to undo." if undo else "There is nothing to redo.")])
            sequence, entry = found
            change = entry.inverse if undo else entry.forward
            after = change.applied_to(held.document)
            revision = held.step(sequence, undo, change, after, request)
            return Edited(revision, held.document, after, change, *held.labels())

    def delete(self, who: str, project: str) -> None:
        self._set_deleted(who, project, True)

    def bring_back(self, who: str, project: str) -> None:
        self._set_deleted(who, project, False)

    def _set_deleted(self, who: str, project: str, deleted: bool) -> None:
        with self._store.hold(project) as held:
            _owned(held.head, who)
            held.set_deleted(deleted)

    def versions(self, who: str, project: str) -> list[VersionHead]:
        with self._store.hold(project) as held:
            _owned(held.head, who)
            return held.versions()

    def name_version(self, who: str, project: str, name: str) -> VersionHead:
        with self._store.hold(project) as held:
            _owned(held.head, who)
            return held.add_version(name)

    def version(self, who: str, project: str, version: str) -> Document:
        """The document as a named version holds it."""
        with self._store.hold(project) as held:
            _owned(held.head, who)
            return held.version_document(version)

    def return_to_version(self, who: str, project: str, version: str, request: str | None = None) -> Edited:
        """The document of a named version becomes the newest state: one step that can be undone."""
        with self._store.hold(project) as held:
            _owned(held.head, who)
            if (done := self._done(held, request)) is not None:
                return done
            before, after = held.document, held.version_document(version)
            forward = difference(before, after)
            if forward.is_empty:
                return Edited(held.head.revision, before, before, forward, *held.labels())
            revision = held.record(EditEntry("Return to a version", forward, difference(after, before)), who, after, request)
            return Edited(revision, before, after, forward, *held.labels())
