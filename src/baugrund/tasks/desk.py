"""A worker's desk: what it does with a question that it takes off the queue."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property, partial
from pathlib import Path

from procrastinate import App, JobContext, PsycopgConnector, RetryStrategy
from procrastinate.exceptions import JobAborted
from pydantic import ValidationError

from baugrund.core.answers.picker import Picker
from baugrund.core.errors import BaugrundError, NotFound, Stopped
from baugrund.core.explain.answers import Answer
from baugrund.core.facts.fact import Fact
from baugrund.core.facts.settings import Aim
from baugrund.core.watch import Progress, Share, watched
from baugrund.store.catalogues import Catalogues
from baugrund.store.database import Database
from baugrund.store.meanings import RememberedMeanings
from baugrund.store.pictures import Pictures
from baugrund.store.price_files import PriceFiles
from baugrund.store.projects import Projects
from baugrund.store.questions import SILENT_S, About, Questions
from baugrund.store.replies import Replies
from baugrund.store.states import Stored

from .price_questions import PRICE_QUESTIONS, Prices
from .questions import BestOf, Question, Sources, is_proven, mark_of_question, named, reply_type
from .queue import TASK

log = logging.getLogger(__name__)

REPORT_EVERY_S = 0.4
PickerOf = Callable[[Stored], Picker]


@dataclass(frozen=True)
class Desk:
    """What a worker answers from."""

    database: Database
    catalogues: Catalogues
    picker_of: PickerOf
    fonts: Path | None = None
    """Those of printed sheets."""

    @cached_property
    def projects(self) -> Projects:
        return Projects(self.database)

    @cached_property
    def questions(self) -> Questions:
        return Questions(self.database)

    @cached_property
    def replies(self) -> Replies:
        return Replies(self.database)

    def known(self, stored: Stored, aim: Aim) -> Answer | None:
        """The answer of an aim for this very state, where it was found before."""
        last = self.projects.last_pick(stored.id, aim)
        return last[1] if last and last[0] == stored.revision else None

    def picture(self, project_id: int, key: str) -> tuple[str, bytes] | None:
        """Media type and content of a kept picture; None: it is not there."""
        try:
            kept = Pictures(self.database).load(project_id, key)
        except NotFound:
            return None
        return kept.media_type, kept.content

    def of_project(self, stored: Stored, question: str, job: int) -> Fact:
        """The reply to a question about a project: what was found for the same content before, else found here, with
        what was found on the way kept."""
        asked, catalogue = named(question), self.catalogues.of(stored.project)
        mark = mark_of_question(asked, stored.project, catalogue) if asked.lasts else ""
        if reply := self.found_before(asked, mark):
            self._keep_answer(stored, reply)
            return reply
        reply = self._found(stored, question, asked, job)
        if mark and is_proven(told := reply.model_dump(mode="json")):
            self.replies.keep(mark, told)
        return reply

    def found_before(self, asked: Question, mark: str) -> Fact | None:
        """The reply that was kept under a mark; None: there is none, or this program reads it no more."""
        try:
            return reply_type(asked).model_validate(found) if mark and (found := self.replies.find(mark)) else None
        except ValidationError:
            return None

    def _found(self, stored: Stored, question: str, asked: Question, job: int) -> Fact:
        about, picker = About(project=stored.id), self.picker_of(stored)
        sources = Sources(picker, partial(self.known, stored), self.fonts, partial(self.picture, stored.id))
        draft = asked.draft(sources) if isinstance(asked, BestOf) else None
        if draft:
            self.questions.draft(about, question, job, draft.model_dump(mode="json"))
        reply = asked.reply(sources)
        self._keep_answer(stored, reply)
        return reply

    def _keep_answer(self, stored: Stored, reply: Fact) -> None:
        if answered := getattr(reply, "answer", None):
            self.projects.keep_pick(stored.id, stored.revision, answered)

    def of_catalogue(self, catalogue_id: int, question: str) -> Fact:
        """The reply to a question about a catalogue."""
        asked = PRICE_QUESTIONS.validate_json(question)
        files, meanings = PriceFiles(self.database), RememberedMeanings(self.database)
        return asked.reply(Prices(catalogue_id, self.catalogues, files, meanings))

    def answer(self, context: JobContext, about: About, question: str) -> None:
        """Take up a question, unless nobody waits for it any more, tell how far it is, and keep the reply.

        Raises JobAborted when it is stopped meanwhile.
        """
        job = context.job.id
        assert job is not None
        stored = self.projects.load(about.project) if about.project is not None else None
        if not self.questions.take_up(about, question, job, stored.revision if stored else 0):
            return
        reported = time.monotonic()

        def report(progress: Progress | Share) -> None:
            nonlocal reported
            if context.should_abort():
                raise Stopped("The search was stopped.")
            if time.monotonic() - reported < REPORT_EVERY_S:
                return
            reported = time.monotonic()
            if not self.questions.report(about, question, job, vars(progress)):
                raise Stopped("Nobody waits for this search any more.")

        try:
            with watched(report):
                if stored:
                    reply = self.of_project(stored, question, job)
                else:
                    assert about.catalogue is not None
                    reply = self.of_catalogue(about.catalogue, question)
            self.questions.settle(about, question, job, reply.model_dump(mode="json"))
        except Stopped as error:
            raise JobAborted from error
        except BaugrundError as error:
            self.questions.settle(about, question, job, None, error.sentence)
        except Exception:
            log.exception("question %s of %s", question, about)
            self.questions.settle(about, question, job, None, "The search broke off; the server's log says why.")


def worker_app(url: str, desk: Desk) -> App:
    """The queue as a worker sees it: the one task, and how it is done."""
    app = App(connector=PsycopgConnector(conninfo=url, min_size=1, max_size=3))

    @app.task(
        name=TASK, pass_context=True, retry=RetryStrategy(max_attempts=5, retry_exceptions=[JobAborted])
    )  # fmt: skip
    def answer(
        context: JobContext, question: str, project_id: int | None = None, catalogue_id: int | None = None
    ) -> None:  # fmt: skip
        desk.answer(context, About(project_id, catalogue_id), question)

    @app.periodic(cron="*/10 * * * * *")
    @app.task(name="take over", queueing_lock="take over", pass_context=False)
    async def take_over(timestamp: int) -> None:
        """What a worker that is gone had begun goes back on the queue."""
        for stalled in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=SILENT_S):
            await app.job_manager.retry_job(stalled)

    return app
