"""The queue: how a question gets onto it, and what a worker does with it."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path

from procrastinate import App, JobContext, PsycopgConnector, RetryStrategy, SyncPsycopgConnector
from procrastinate.exceptions import JobAborted
from psycopg import Connection
from psycopg.rows import DictRow

from baugrund.core.errors import BaugrundError, Stopped
from baugrund.core.pick.answers import Answer
from baugrund.core.plan import Picker
from baugrund.core.project import Aim
from baugrund.core.watch import Progress, Share, watched
from baugrund.store.database import Database
from baugrund.store.projects import Projects
from baugrund.store.questions import Asked, Questions
from baugrund.store.states import Stored

from .questions import BestOf, Question, Sources, name_of, named

log = logging.getLogger(__name__)

TASK = "answer"
REPORT_EVERY_S = 0.4
FOLLOWED_FIRST, BRIEF_FIRST = 10, 20
"""Priority of the pick that a project follows, before all that is asked beside it, and of what takes but seconds."""
BRIEF = "brief"
"""Queue of what takes but seconds; all else is on procrastinate's own."""
PickerOf = Callable[[Stored], Picker]


class Queue:
    """Where the server puts its questions."""

    def __init__(self, database: Database) -> None:
        self.questions = Questions(database)
        self.app = App(connector=SyncPsycopgConnector())
        self.app.open(database)

    def ask(self, stored: Stored, question: Question) -> Asked:
        """How a question stands; one that nobody works on is put on the queue."""
        name = name_of(question)
        followed = isinstance(question, BestOf) and question.aim == stored.project.settings.aim
        priority = BRIEF_FIRST if question.brief else FOLLOWED_FIRST if followed else 0

        def defer(connection: Connection[DictRow]) -> int:
            job = self.app.configure_task(
                TASK, allow_unknown=True, connection=connection, queue=BRIEF if question.brief else None,
                priority=priority,
            )  # fmt: skip
            return job.defer(project_id=stored.id, question=name)

        asked, needless = self.questions.ask(stored.id, name, stored.revision, defer)
        if needless is not None:
            self.app.job_manager.cancel_job_by_id(needless, abort=True)
        return asked

    def stop(self, project_id: int, question: Question) -> None:
        """Ask no longer: whoever works on it stops."""
        job = self.questions.stop(project_id, name_of(question))
        if job is not None:
            self.app.job_manager.cancel_job_by_id(job, abort=True)


def _known(projects: Projects, stored: Stored, aim: Aim) -> Answer | None:
    """The answer of an aim for this very state, where it was found before."""
    last = projects.last_pick(stored.id, aim)
    return last[1] if last and last[0] == stored.revision else None


def worker_app(url: str, database: Database, picker_of: PickerOf, fonts: Path | None = None) -> App:
    """The queue as a worker sees it: the one task, and how it is done.  ``fonts``: those of printed sheets."""
    app = App(connector=PsycopgConnector(conninfo=url, min_size=1, max_size=3))
    projects, questions = Projects(database), Questions(database)

    @app.task(
        name=TASK, pass_context=True, retry=RetryStrategy(max_attempts=5, retry_exceptions=[JobAborted])
    )  # fmt: skip
    def answer(context: JobContext, project_id: int, question: str) -> None:
        job = context.job.id
        assert job is not None
        stored = projects.load(project_id)
        if not questions.take_up(project_id, question, job, stored.revision):
            return
        reported = time.monotonic()

        def report(progress: Progress | Share) -> None:
            nonlocal reported
            if context.should_abort():
                raise Stopped("The search was stopped.")
            if time.monotonic() - reported < REPORT_EVERY_S:
                return
            reported = time.monotonic()
            if not questions.report(project_id, question, job, vars(progress)):
                raise Stopped("Nobody waits for this search any more.")

        try:
            asked = named(question)
            picker = picker_of(stored)
            sources = Sources(picker, partial(_known, projects, stored), fonts)
            with watched(report):
                draft = asked.draft(sources) if isinstance(asked, BestOf) else None
                if draft:
                    questions.draft(project_id, question, job, draft.model_dump(mode="json"))
                reply = asked.reply(sources)
            projects.keep_proofs(project_id, stored.revision, picker.proofs.found)
            if answered := getattr(reply, "answer", None):
                projects.keep_pick(project_id, stored.revision, answered)
            questions.settle(project_id, question, job, reply.model_dump(mode="json"))
        except Stopped as error:
            raise JobAborted from error
        except BaugrundError as error:
            questions.settle(project_id, question, job, None, error.sentence)
        except Exception:
            log.exception("question %s of project %s", question, project_id)
            questions.settle(project_id, question, job, None, "The search broke off; the server's log says why.")

    @app.periodic(cron="*/10 * * * * *")
    @app.task(name="take over", queueing_lock="take over", pass_context=False)
    async def take_over(timestamp: int) -> None:
        """What a worker that is gone had begun goes back on the queue."""
        for stalled in await app.job_manager.get_stalled_jobs():
            await app.job_manager.retry_job(stalled)

    return app
