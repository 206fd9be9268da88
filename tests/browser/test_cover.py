"""Cover: a view is aimed by keys and by dragging, targets and openings are drawn, disks are typed, places are taken."""

import io
import math
import re

import pytest
from PIL import Image
from playwright.sync_api import expect

from .controls import choose


@pytest.fixture
def cover(page, works):
    page.goto(f"/projects/{works}/cover")
    expect(page.locator("[data-view]").first).to_be_visible()
    return page


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


def view_of(projects, number, drop_id):
    return next(view for view in projects.load(number).project.views if view.drop_id == drop_id)


def shop(projects, number):
    """The dome camera in the shop."""
    project = projects.load(number).project
    return next(d for d in project.drops if d.kind == "camera" and project.rooms_by_id[d.room_id].name == "Shop")


def chosen(cover, name="Camera, Shop"):
    views = cover.get_by_role("region", name="Cameras and their views")
    views.get_by_role("button", name=name).click()
    return cover.get_by_role("slider", name=f"Aim of {name}")


def test_a_view_is_aimed_by_keys_and_what_it_meets_now_is_told(cover, works, projects):
    aim = chosen(cover)
    expect(aim).to_have_attribute("aria-valuetext", "252° on the plan, 15° down")
    aim.focus()
    cover.keyboard.press("ArrowRight")
    saved(cover, 1)
    cover.keyboard.press("Shift+ArrowDown")
    saved(cover, 2)
    drop = shop(projects, works)
    assert (view_of(projects, works, drop.id).bearing_deg, view_of(projects, works, drop.id).tilt_deg) == (253, 25)
    expect(aim).to_have_attribute("aria-valuetext", "253° on the plan, 25° down")
    for _ in range(8):
        cover.keyboard.press("Shift+ArrowRight")
    expect(cover.get_by_text("No longer met: Counter")).to_be_visible()


def test_a_view_is_aimed_by_dragging_the_end_of_its_line(cover, works, projects):
    aim = chosen(cover)
    drop = shop(projects, works)
    box = aim.bounding_box()
    start = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    lens = cover.locator(f"[data-drop='{drop.id}'] .hit").bounding_box()
    at = (lens["x"] + lens["width"] / 2, lens["y"] + lens["height"] / 2)
    cover.mouse.move(*start)
    cover.mouse.down()
    cover.mouse.move(at[0] - 60, at[1] + 60, steps=8)
    cover.mouse.up()
    saved(cover, 1)
    seen = view_of(projects, works, drop.id)
    assert seen.bearing_deg == pytest.approx(225, abs=4)
    # 60 px to either side are so many metres away; the height of the lens over that is the tilt
    assert 0 < seen.tilt_deg < 90


def test_a_target_is_drawn_and_its_detail_chosen(cover, works, projects):
    cover.get_by_role("group", name="Floors").get_by_role("button", name="Ground floor").click()
    choose(cover, "What to draw", "a target: a spot")
    plan = cover.locator("[data-plan]")
    box = plan.bounding_box()
    cover.mouse.click(box["x"] + box["width"] * 0.5, box["y"] + box["height"] * 0.75)
    saved(cover, 1)
    sheet = cover.get_by_role("region", name="Target 8")
    expect(sheet).to_be_visible()
    choose(sheet, "Detail", "detect")
    saved(cover, 2)
    target = projects.load(works).project.targets[-1]
    assert (target.shape, target.detail, target.name) == ("spot", "detect", "Target 8")
    expect(cover.get_by_role("region", name="Targets", exact=True)).to_contain_text("Target 8")
    sheet.get_by_label("Corners").fill("9 13; 10 13")
    cover.keyboard.press("Enter")
    expect(cover.get_by_role("alert")).to_contain_text("has one corner")


def test_who_sees_a_spot_is_told(cover):
    cover.get_by_role("group", name="Floors").get_by_role("button", name="Ground floor").click()
    choose(cover, "What to draw", "nothing: who sees this spot?")
    box = cover.locator("[data-plan]").bounding_box()
    cover.mouse.click(box["x"] + box["width"] * 0.55, box["y"] + box["height"] * 0.82)
    seen = cover.get_by_role("region", name="Seen from")
    expect(seen).to_contain_text("Camera, Shop")
    expect(seen).to_contain_text("px/m")
    cover.keyboard.press("Escape")
    expect(seen).to_be_hidden()


def test_a_view_stands_up_and_is_tilted_by_keys(cover, works, projects):
    chosen(cover)
    cover.get_by_role("link", name="See it standing up").click()
    expect(cover.get_by_text("blind for")).to_be_visible()
    cover.get_by_role("slider", name="Aim of Camera, Shop").focus()
    cover.keyboard.press("ArrowDown")
    saved(cover, 1)
    assert view_of(projects, works, shop(projects, works).id).tilt_deg == 16


def test_a_still_is_kept_beside_the_view(cover, works, projects):
    chosen(cover)
    picture = io.BytesIO()
    Image.new("RGB", (64, 36), "grey").save(picture, "PNG")
    with cover.expect_file_chooser() as choosing:
        cover.get_by_role("button", name="Take a still").click()
    choosing.value.set_files({"name": "still.png", "mimeType": "image/png", "buffer": picture.getvalue()})
    expect(cover.get_by_role("img", name="Still from Camera, Shop")).to_be_visible()
    unseen = cover.get_by_label("What stays unseen from there")
    unseen.fill("The corner behind the door.")
    unseen.blur()
    saved(cover, 2)
    view = view_of(projects, works, shop(projects, works).id)
    assert view.still and view.still_day and view.unseen == "The corner behind the door."


def test_disks_are_typed_and_the_least_price_is_taken(page, school, projects):
    page.goto(f"/projects/{school}/cover/kept")
    recorders = page.get_by_role("region", name="Recorders and their disks")
    expect(recorders).to_contain_text("Holds 7.2 TB")
    disks = recorders.get_by_label("TB, Recorder, Book room")
    disks.fill("2")
    page.keyboard.press("Enter")
    saved(page, 1)
    expect(page.get_by_role("region", name="Goal: footage kept")).to_contain_text("not met")
    expect(page.locator("[data-capacity=disk]")).to_contain_text("over by")
    page.get_by_role("region", name="Recorders and disks for the least price").get_by_role(
        "button", name="Use these disks"
    ).click()
    saved(page, 2)
    expect(page.get_by_role("region", name="Goal: footage kept")).not_to_contain_text("not met")
    recorder = next(d for d in projects.load(school).project.drops if d.kind == "recorder")
    assert (recorder.disks, recorder.disk_tb, recorder.raid) == (1, 8.0, "none")


def test_best_places_are_taken_with_one_press_and_undone_with_one(page, house, projects):
    before = projects.load(house).project
    page.goto(f"/projects/{house}/cover/best")
    answer = page.get_by_role("article").filter(has_text="Fewest cameras")
    expect(answer).to_contain_text("3 of 3 targets met")
    expect(answer).to_contain_text("proven")
    answer.get_by_role("button", name="Use these places").click()
    saved(page, 1)
    page.goto(f"/projects/{house}/cover")
    expect(page.get_by_role("region", name="Targets", exact=True)).to_contain_text("3 of 3 met")
    page.keyboard.press("Control+z")
    saved(page, 2)
    after = projects.load(house).project
    assert (after.drops, after.views) == (before.drops, before.views)


def test_openings_are_typed_and_the_site_has_a_place(page, house, projects):
    page.goto(f"/projects/{house}/cover/site")
    site = page.get_by_role("region", name="The site")
    north = site.get_by_label("North")
    north.fill("400")
    north.blur()
    expect(north).to_have_attribute("aria-invalid", "true")
    north.fill("40")
    north.blur()
    saved(page, 1)
    zone = site.get_by_label("Time zone")
    zone.fill("Nowhere/Land")
    zone.blur()
    expect(page.get_by_role("alert")).to_contain_text("there is no time zone")
    assert projects.load(house).project.settings.north_deg == 40
    width = page.get_by_label("Width: Front door")
    width.fill("30")
    width.blur()
    saved(page, 2)
    expect(page.get_by_role("region", name="Findings")).to_contain_text("wider than its wall")


def test_sight_is_used_on_a_phone(page, works):
    page.set_viewport_size({"width": 360, "height": 740})
    page.goto(f"/projects/{works}/cover")
    expect(page.locator("[data-view]").first).to_be_visible()
    chosen(page)
    expect(page.get_by_role("button", name="Take a still")).to_be_visible()
    wide = page.evaluate("document.documentElement.scrollWidth")
    assert math.isclose(wide, 360), wide


def test_a_camera_and_its_bracket_are_chosen_from_the_price_list(cover, works, projects):
    chosen(cover)
    sheet = cover.get_by_role("region", name="Camera, Shop")
    choose(sheet, "Model", re.compile("Camera body, 8 MP with Lens, 4 mm"))
    saved(cover, 1)
    choose(sheet, "Bracket", re.compile("Twin arm"))
    saved(cover, 2)
    stored = projects.load(works).project
    drop = next(one for one in stored.drops if one.lens_model)
    assert (drop.model, drop.lens_model, drop.bracket_model) == ("camera-body-8", "lens-4", "bracket-twin")
    view = next(one for one in stored.views if one.drop_id == drop.id)
    assert (round(view.field_deg, 1), view.bracket_m, view.across_px) == (84.0, 0.25, 3840)
