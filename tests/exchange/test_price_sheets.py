"""The offer, its variation and the sheet for the workshop on paper: what they say, and what no client reads."""

from datetime import date

import pypdfium2
import pytest

from baugrund.core.answers.picker import Picker, standing_boxes
from baugrund.core.edits import ChangeSettings, apply_edits
from baugrund.core.facts.project import empty_project
from baugrund.core.price.costs import costs_of
from baugrund.core.price.moving import moving_of
from baugrund.core.price.offer import offers_of
from baugrund.core.price.visits import visits_of
from baugrund.core.price.work_items import work_in_phases
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.ground import grounds_of
from baugrund.exchange.sheets.figures import amount, figure
from baugrund.exchange.sheets.moving_sheet import write_moving
from baugrund.exchange.sheets.offer_sheet import write_offer, write_variation, write_workshop

DAY = date(2026, 5, 6)


@pytest.fixture(scope="module")
def works_priced(dye_works, catalogue):
    """The dye works with German figures: its grounds, stack and costs."""
    project = apply_edits(dye_works, [ChangeSettings(changes={"numbers": "de"})])
    answer = Picker(project, catalogue).answer("least_price")
    grounds = grounds_of(project, catalogue, standing_boxes(project, catalogue, answer.standing()))
    stack = stack_of(project, catalogue, grounds)
    return project, grounds, stack, costs_of(project, catalogue, grounds, stack)


def text_of(pdf):
    return "\n".join(page.get_textpage().get_text_range() for page in pypdfium2.PdfDocument(pdf)).replace("\r", "")


def test_an_offer_says_what_is_delivered_for_how_much_and_under_which_terms(works_priced):
    project, _, _, costs = works_priced
    (told,) = offers_of(project, costs, {})
    text = text_of(write_offer(project, told, None, DAY))
    whole = amount(told.sent.total_minor, "EUR", "de").replace("\u00a0", " ")
    flat = text.replace("\u00a0", " ")
    assert whole in flat and "2026-05-04" in text and "valid until 2026-06-18" in " ".join(text.split())
    for said in ("Potters' cooperative", "Glaze shed", "second summer", "with the order", "Plastering and painting",
                 "Ducts in the yard are free", "licensed electrician", "Least price", "signature", "Ground floor"):  # fmt: skip
        assert said in text, said
    assert "argin" not in text, "no client reads a margin"
    # what was sent stays: the dearer door station is not in it
    assert amount(2 * 25185, "EUR", "de").replace("\u00a0", " ") in flat


def test_a_variation_is_a_list_with_its_price(works_priced):
    project, _, _, costs = works_priced
    (told,) = offers_of(project, costs, {})
    flat = text_of(write_variation(project, told, None, DAY)).replace("\u00a0", " ")
    assert amount(told.variation.more_minor, "EUR", "de").replace("\u00a0", " ") in flat and "Other work" in flat
    unsent = told.model_copy(update={"sent": None, "variation": None})
    assert "was not sent yet" in text_of(write_variation(project, unsent, None, DAY))


def test_the_workshop_buys_by_supplier_and_loads_by_visit(works_priced, catalogue):
    project, grounds, stack, costs = works_priced
    visits = visits_of(project, costs, work_in_phases(project, catalogue, grounds, stack))
    text = text_of(write_workshop(project, costs, visits, None, DAY))
    for said in ("House list", "Brought by the client", "Day 1", "fish tape and rods", "shop on duty"):
        assert said in text, said


def test_the_steps_of_moving_over_are_ticked_on_paper(works_priced):
    project, grounds, _, _ = works_priced
    text = " ".join(text_of(write_moving(project, moving_of(project, grounds), None, DAY)).split())
    for said in ("Internet, must stay up", "mobile router on the packing bench", "2 × 2 min", "second summer",
                 "Old boxes go off", "Pull that cord."):  # fmt: skip
        assert said in text, said
    assert "nothing to move over" in text_of(
        write_moving(project, moving_of(empty_project("New", 2026), ()), None, DAY)
    )


@pytest.mark.parametrize(
    ("numbers", "written"), [("en", "1,234.5"), ("de", "1.234,5"), ("fr", "1\u202f234,5"), ("ch", "1\u2019234.5")]
)
def test_figures_are_written_as_the_project_writes_them(numbers, written):
    assert figure(1234.5, 2, numbers) == written
    assert amount(None, "EUR", numbers) == "–"
    assert amount(123450, "EUR", numbers).endswith(written + "0")
    assert amount(1234, "JPY", "en") == "¥\u00a01,234"
