"""Where templates of the library are used, and newer versions of them taken over by films."""

from dataclasses import dataclass

from ..core.errors import Conflict, Fault, NotFound
from ..core.templates import shelved
from .ports import ProjectStore, TemplateUsed
from .projects import Projects
from .templates import Templates, newer


@dataclass(frozen=True, slots=True)
class Offer:
    """A newer version of template `record` of a film: `version` is what it uses, `newest` what there is, by its `key`. `keeps`: what was changed by
    hand can be told from what the template made, since the version that it uses is at hand."""

    record: str
    template: str
    name: str
    version: str
    newest: str
    key: str
    keeps: bool


class TemplateVersions:
    """Every call names who is asking."""

    def __init__(self, store: ProjectStore, projects: Projects, templates: Templates):
        self._store, self._projects, self._templates = store, projects, templates

    def used(self, who: str) -> list[TemplateUsed]:
        """Where templates are used, in one's own projects, the last changed first."""
        return self._store.templates_used(who)

    def keeps(self, used: TemplateUsed) -> bool:
        """Whether what was changed by hand can be told from what the template made: its version is at hand."""
        return shelved(used.key) is not None

    def offered(self, who: str, project: str) -> list[Offer]:
        """Newer versions of what a film uses. Raises NotFound."""
        _, document = self._projects.read(who, project)
        newest = {facts.id: facts for facts in self._templates.listed(who)}
        found = []
        for record, template in sorted(document.templates.items()):
            facts = None if template.origin is None else newest.get(template.origin.id)
            if template.origin is not None and facts is not None and newer(facts.version, template.origin.version):
                found.append(Offer(record, facts.id, facts.name, template.origin.version, facts.version, facts.key, shelved(template.origin.key) is not None))
        return found

    def take_everywhere(self, who: str, template: str) -> int:
        """The newest version of a template into every film that uses an older one and loses nothing by it, one step of each film's history; how
        many there were. A film that somebody changes at this moment is tried again. Raises NotFound."""
        facts = next((facts for facts in self._templates.listed(who) if facts.id == template), None)
        if facts is None:
            raise NotFound([Fault("template.not_found", "", "There is no such template in your library.")])
        older = [used for used in self.used(who) if used.template == template and newer(facts.version, used.version) and self.keeps(used)]
        for used in older:
            self._take(who, used, facts.key)
        return len({used.project for used in older})

    def _take(self, who: str, used: TemplateUsed, key: str) -> None:
        for last in (False, False, True):
            head, document = self._projects.read(who, used.project)
            if used.record not in document.templates:
                return
            try:
                self._projects.edit(who, used.project, head.revision, [{"edit": "take_version", "template": used.record, "key": key}])
                return
            except Conflict:
                if last:
                    raise
