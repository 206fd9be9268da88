"""A job on a phone, from the bench to the signed acceptance; codes by the camera; powering up; what opens again."""

import re

import pytest
from playwright.sync_api import expect

from baugrund.core.edits import AddDrops, AddEntry, AddRooms, ChangeSettings, DropChanges, NewRoom, apply_edits
from baugrund.core.facts.project import empty_project
from baugrund.core.standards.order_of_work import BUILD_STAGES, STAGE_ROWS

PHONE = {"width": 390, "height": 844}


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


@pytest.fixture
def studio(projects):
    """A room with a desk and a camera, a line, and a goal."""
    made = apply_edits(empty_project("Studio", 2026), [
        ChangeSettings(changes={"horizon_years": 0, "growth_percent": 0, "separate_networks": False}),
        AddRooms(rooms=(NewRoom(name="Studio"),)),
        AddDrops(room="Studio", kind="desk", changes=DropChanges(run_m=12)),
        AddDrops(room="Studio", kind="camera", changes=DropChanges(run_m=20)),
        AddEntry(list="lines", values={"name": "Line", "down_mbit": 500, "up_mbit": 100}),
        AddEntry(list="goals", values={"kind": "image"}),
    ])  # fmt: skip
    return projects.create(made)


class Phone:
    """A phone that follows one project by its revision."""

    def __init__(self, page, project):
        self.page, self.project, self.revision = page, project, 0
        page.set_viewport_size(PHONE)

    def open(self, view):
        self.page.goto(f"/projects/{self.project}/prove/{view}")

    def kept(self):
        self.revision += 1
        saved(self.page, self.revision)

    def tick_all_that_is_next(self):
        """Presses what is next until nothing can be ticked here; tells the stages in their order."""
        following = self.page.get_by_role("region", name="Next", exact=True)
        done = []
        while True:
            expect(following).to_be_visible()
            boxes = following.get_by_role("checkbox")
            if boxes.count() == 0:
                return done
            name = boxes.first.get_attribute("aria-label") or ""
            boxes.first.locator("xpath=ancestor-or-self::label").click()
            self.kept()
            expect(following.get_by_role("checkbox", name=name, exact=True)).to_have_count(0)
            done.append(name.partition(":")[0])


def test_a_whole_job_on_a_phone_from_the_bench_to_the_signed_acceptance(page, studio, projects):
    phone = Phone(page, studio)
    phone.open("bench")
    devices = page.get_by_role("table", name="Bench").get_by_role("row")
    expect(page.get_by_text("0 of 2 through the bench")).to_be_visible()
    for row in devices.all()[1:]:
        for box in row.get_by_role("checkbox").all():
            box.locator("xpath=ancestor-or-self::label").click()
            phone.kept()
    expect(page.get_by_text("2 of 2 through the bench")).to_be_visible()
    devices.filter(has_text="Camera").get_by_role("button").click()
    page.get_by_label("Paste what its label says").fill("S/N CAM-77, MAC 02-00-5e-00-00-41")
    page.get_by_label("Paste what its label says").press("Enter")
    phone.kept()
    camera = page.get_by_role("region", name="Camera, Studio")
    expect(camera.get_by_label("Hardware address")).to_have_value("02:00:5E:00:00:41")
    camera.get_by_label("Serial").fill("CAM-78")
    camera.get_by_label("Serial").press("Enter")
    phone.kept()

    phone.open("order")
    page.get_by_label("Your name").fill("Ada")
    order = phone.tick_all_that_is_next()
    assert order[0] == "Pull" and "Patch" in order and "Configure" not in order

    phone.open("power-up")
    steps = page.get_by_role("main").locator("ol > li")
    expect(steps.first).to_be_visible()
    for _ in range(steps.count()):
        now = page.get_by_role("region", name="Now")
        now.get_by_role("button", name="It is on").click()
        expect(now.get_by_role("timer")).to_contain_text("left")
        now.get_by_role("button", name="Not seen").click()
        expect(now.get_by_text("Where to look first: ")).to_be_visible()
        now.get_by_role("button", name="Seen", exact=True).click()
        phone.kept()
    expect(page.get_by_text("Everything is up.")).to_be_visible()

    phone.open("order")
    order += phone.tick_all_that_is_next()
    phone.open("runs")
    for name, power in (("Desk, Studio", None), ("Camera, Studio", "51")):
        page.get_by_role("table", name="Runs").get_by_role("button", name=name).click()
        sheet = page.get_by_role("region", name=name)
        sheet.get_by_role("button", name="All straight").click()
        sheet.get_by_label("Length").fill("12" if power is None else "20")
        sheet.get_by_role("button", name="Link").click()
        page.get_by_role("option", name="1 Gbit/s" if power is None else "100 Mbit/s").click()
        if power:
            sheet.get_by_label("Volts").fill(power)
        sheet.get_by_role("button", name="Write it down").click()
        phone.kept()
    expect(page.get_by_text("2 passed, 0 failed, 0 still to test")).to_be_visible()

    phone.open("order")
    order += phone.tick_all_that_is_next()
    expect(page.get_by_text("All of this phase is done.")).to_be_visible()
    names = [STAGE_ROWS[stage].name for stage in BUILD_STAGES]
    assert {"Configure", "Mount", "Write down"} <= set(order) <= set(names)
    project = projects.load(studio).project
    assert {row.by for row in project.ticks} == {"Ada"}
    assert all(row.at for row in project.ticks)
    assert project.benched[-1].serial == "CAM-78"

    phone.open("acceptance")
    page.get_by_role("button", name="Camera image").click()
    check = page.get_by_role("region", name="Camera image")
    check.get_by_label("Figure").fill("140")
    check.get_by_role("button", name="Write it down").click()
    phone.kept()
    expect(page.get_by_text("1 passed").first).to_be_visible()
    page.get_by_label("Name of who accepts").fill("Ruth")
    page.get_by_label("Name of who accepts").press("Enter")
    phone.kept()
    assert projects.load(studio).project.sign_offs[-1].passed == 1


def test_a_code_is_read_by_the_camera_and_names_its_device(page, studio, projects):
    page.add_init_script("""
        window.BarcodeDetector = class { async detect() { return [{rawValue: window.shown || ''}].filter(c => c.rawValue) } };
        const canvas = document.createElement('canvas'); canvas.width = 64; canvas.height = 64;
        const draw = () => { canvas.getContext('2d').fillRect(Math.random() * 64, 0, 9, 9); };
        setInterval(draw, 50);
        const devices = {getUserMedia: async () => { draw(); return canvas.captureStream(20) }};
        Object.defineProperty(navigator, 'mediaDevices', {get: () => devices});
    """)  # fmt: skip
    phone = Phone(page, studio)
    phone.open("bench")
    camera = next(drop.id for drop in projects.load(studio).project.drops if drop.kind == "camera")
    expect(page.get_by_text("0 of 2 through the bench")).to_be_visible()
    page.get_by_role("button", name="Read a code with the camera").click()
    expect(page.get_by_text("Hold the code before the camera.")).to_be_visible()
    page.evaluate(f"window.shown = 'baugrund:drop/{camera} Camera'")
    expect(page.get_by_role("region", name="Camera, Studio")).to_be_visible()
    page.evaluate("window.shown = ''")
    page.get_by_role("button", name="Read a code with the camera").click()
    page.evaluate("window.shown = '[)>\\u001e06\\u001dSQX-31\\u001d23S02005E0000AA\\u001e\\u0004'")
    phone.kept()
    row = projects.load(studio).project.benched[-1]
    assert (row.serial, row.hardware) == ("QX-31", "02:00:5E:00:00:AA")


def test_without_a_reader_of_codes_labels_are_pasted_and_what_says_nothing_is_told(page, studio):
    page.goto(f"/projects/{studio}/prove/bench")
    pasted = page.get_by_label("Paste what its label says")
    expect(page.get_by_role("button", name="Read a code with the camera")).to_have_count(0)
    pasted.fill("made in a hurry")
    pasted.press("Enter")
    expect(page.get_by_text("“made in a hurry” names no serial")).to_be_visible()


def test_a_failed_run_opens_its_end_again_and_one_press_closes_it(page, works, projects):
    page.goto(f"/projects/{works}/prove/order")
    expect(page.get_by_text("open again").first).to_be_visible()
    sheet = page.get_by_role("region", name="Plant room", exact=True)
    page.get_by_role("region", name="Next", exact=True).get_by_role(
        "button", name=re.compile("^Terminate: Plant room")
    ).click()
    expect(sheet.get_by_text("its run failed on 2026-06-12").first).to_be_visible()
    sheet.get_by_role("button", name="Tick off what is left: 1").click()
    saved(page, 1)
    expect(sheet.get_by_text("its run failed on")).to_have_count(0)
    with page.expect_download() as taken:
        page.get_by_role("link", name="CSV").click()
    assert "open again" not in taken.value.path().read_text(encoding="utf-8-sig").splitlines()[0]
    assert projects.load(works).project.ticks[-1].stage == "terminate"


def test_wrong_cabling_is_named_before_anything_is_switched_on(page, works, projects):
    page.goto(f"/projects/{works}/prove/power-up")
    wrong = page.get_by_role("region", name="Wrong cabling first")
    expect(wrong).to_contain_text("addresses are translated twice")
    expect(page.get_by_role("region", name="Now")).to_contain_text("Controller")
    page.get_by_role("button", name="Where it begins").click()
    page.get_by_role("option", name="begins at the switch").click()
    saved(page, 1)
    assert projects.load(works).project.settings.power_up == "switch"
    expect(page.get_by_role("listitem").first).to_contain_text("switch")
