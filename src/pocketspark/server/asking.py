"""How a question about a document is asked: the document as it is being typed, and which of its builds is meant."""

from contextlib import suppress
from dataclasses import dataclass
from typing import Annotated

from fastapi import Depends, Request
from pydantic import BaseModel, BeforeValidator, ValidationError

from pocketspark.core.error import PocketSparkError
from pocketspark.core.models import Project
from pocketspark.core.models.lenient import ReadDocument, read_leniently
from pocketspark.core.models.model import RowNumber
from pocketspark.core.models.project import FORMAT
from pocketspark.core.refusal import Refusal, refusals
from pocketspark.parts import Library
from pocketspark.server.budget import within_budget
from pocketspark.server.json_text import Document
from pocketspark.store import NothingThere, Projects, Unreadable


class RefusedField(BaseModel):
    """One field that was refused, rows named by their ids, and what is wrong with it."""

    field: str
    sentence: str


class NothingSound(PocketSparkError, ValueError):
    """Nothing of the document could be read. `refusals` names every field."""

    def __init__(self, found: list[Refusal]) -> None:
        self.refusals = found
        super().__init__(str(found[0]))


class NoSuchBuild(PocketSparkError, LookupError):
    """The document has no such build."""

    status = 404


class DocumentInHand(BaseModel):
    """A document, saved or not. Half-typed text may stand in it.

    `project_id`: where it is stored, so that a refused field counts as it was last saved.
    """

    document: Document
    project_id: RowNumber | None = None


class Question(DocumentInHand):
    """A document, and which of its builds is asked about, by id or number."""

    build: Annotated[str, BeforeValidator(str)] = "0"


@dataclass(frozen=True)
class AskedBuild:
    """A question that was read: the sound part of the document, the build by its number, and what was refused."""

    project: Project
    build: int
    refused: tuple[Refusal, ...]
    project_id: int | None = None  # where it is stored, as its page says

    @property
    def refused_fields(self) -> list[RefusedField]:
        return refused_fields(self.refused)


def projects_of(request: Request) -> Projects:
    projects: Projects = request.app.state.projects
    return projects


OurProjects = Annotated[Projects, Depends(projects_of)]


def library_of(request: Request) -> Library:
    found: Library = request.app.state.library
    return found


OurLibrary = Annotated[Library, Depends(library_of)]


def read_document(document: Document, stored: Project | None = None) -> ReadDocument:
    """What can be read of it. Raises NothingSound."""
    try:
        return read_leniently({"format": FORMAT, **document}, stored)
    except ValidationError as error:
        raise NothingSound(refusals(error)) from None


def read_question(question: Question, projects: Projects) -> AskedBuild:
    """Raises NothingSound and NoSuchBuild."""
    read = _read(question, projects)
    number = build_number(read.project, question.build)
    return AskedBuild(read.project, number, read.refused, question.project_id)


def _read(question: Question, projects: Projects) -> ReadDocument:
    """What is stored is looked up only where something is refused: it seldom is, and every keystroke comes by here."""
    with suppress(NothingSound):
        read = read_document(question.document)
        if not read.refused:
            return read
    return read_document(question.document, _stored(question, projects))


def build_number(project: Project, build: str) -> int:
    """Raises NoSuchBuild."""
    try:
        return project.build_number(build)
    except IndexError as error:
        raise NoSuchBuild(str(error)) from None


def _stored(question: DocumentInHand, projects: Projects) -> Project | None:
    if question.project_id is None:
        return None
    try:
        return projects.get(question.project_id).project
    except (NothingThere, Unreadable):
        return None


@within_budget
def asked(question: Question, projects: OurProjects) -> AskedBuild:
    """The question, once its build is known to be there."""
    return read_question(question, projects)


Asked = Annotated[AskedBuild, Depends(asked)]


def refused_fields(refused: tuple[Refusal, ...]) -> list[RefusedField]:
    return [RefusedField(field=refusal.field, sentence=refusal.sentence) for refusal in refused]
