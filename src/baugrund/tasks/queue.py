"""The queue: how a question gets onto it."""

from __future__ import annotations

from procrastinate import App, SyncPsycopgConnector
from psycopg import Connection
from psycopg.rows import DictRow

from baugrund.store.database import Database
from baugrund.store.price_files import PriceFiles
from baugrund.store.questions import About, Questions, StoredQuestion
from baugrund.store.states import Stored

from .price_questions import PriceQuestion
from .questions import BestOf, Question, name_of

TASK = "answer"
FOLLOWED_FIRST, BRIEF_FIRST = 10, 20
"""Priority of the pick that a project follows, before all that is asked beside it, and of what takes but seconds."""
BRIEF = "brief"
"""Queue of what takes but seconds; all else is on procrastinate's own."""


class Queue:
    """Where the server puts its questions."""

    def __init__(self, database: Database) -> None:
        self.questions = Questions(database)
        self.files = PriceFiles(database)
        self.app = App(connector=SyncPsycopgConnector())
        self.app.open(database)

    def ask(self, stored: Stored, question: Question) -> StoredQuestion:
        """How a question stands; one that nobody works on is put on the queue."""
        followed = isinstance(question, BestOf) and question.aim == stored.project.settings.aim
        priority = BRIEF_FIRST if question.brief else FOLLOWED_FIRST if followed else 0
        name, brief = name_of(question), question.brief
        return self._ask(About(project=stored.id), name, stored.revision, brief, priority, project_id=stored.id)

    def ask_of_prices(self, catalogue_id: int, question: PriceQuestion) -> StoredQuestion:
        """The same, of a catalogue: what is asked names its edition, so a reply stands for good."""
        self.questions.forget_older(catalogue_id)
        about = About(catalogue=catalogue_id)
        return self._ask(about, name_of(question), 0, True, BRIEF_FIRST, catalogue_id=catalogue_id)

    def _ask(self, about: About, name: str, revision: int, brief: bool, priority: int, **given: int) -> StoredQuestion:
        def defer(connection: Connection[DictRow]) -> int:
            job = self.app.configure_task(
                TASK, allow_unknown=True, connection=connection, queue=BRIEF if brief else None, priority=priority
            )
            return job.defer(question=name, **given)

        asked, needless = self.questions.ask(about, name, revision, defer)
        if needless is not None:
            self.app.job_manager.cancel_job_by_id(needless, abort=True)
        return asked

    def stop(self, about: About, question: Question | PriceQuestion) -> None:
        """Ask no longer: whoever works on it stops."""
        job = self.questions.stop(about, name_of(question))
        if job is not None:
            self.app.job_manager.cancel_job_by_id(job, abort=True)
