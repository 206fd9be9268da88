"""Plan and section: the same selection everywhere; drops are put, dragged, nudged, doubled, aligned; rooms are drawn."""

import io
import re
from itertools import pairwise

import pytest
from PIL import Image
from playwright.sync_api import expect

from baugrund.core.edits import AddRooms, NewRoom, SetTally, apply_edits
from baugrund.core.facts.project import empty_project

from .controls import choose


@pytest.fixture
def plan(page, house):
    page.goto(f"/projects/{house}/walk/plan")
    expect(page.locator("[data-drop]").first).to_be_visible()
    return page


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


def drop(page, name):
    return page.get_by_role("button", name=name, exact=True)


def middle(page, locator):
    box = locator.locator(".hit").bounding_box()
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def drag(page, start, by, steps=6):
    page.mouse.move(*start)
    page.mouse.down()
    page.mouse.move(start[0] + by[0], start[1] + by[1], steps=steps)
    page.mouse.up()


def test_a_drop_is_dragged_to_a_wall_and_stays(plan, house, projects):
    screen = drop(plan, "Screen, Living room")
    before = next(d for d in projects.load(house).project.drops if d.kind == "screen")
    start = middle(plan, screen)
    drag(plan, start, (60, 30))
    saved(plan, 1)
    moved = next(d for d in projects.load(house).project.drops if d.kind == "screen")
    assert (moved.x_m, moved.y_m) != (before.x_m, before.y_m)
    now = middle(plan, screen)
    assert now != start
    plan.reload()
    expect(drop(plan, "Screen, Living room")).to_be_visible()
    assert middle(plan, drop(plan, "Screen, Living room")) == pytest.approx(now, abs=2)
    plan.keyboard.press("Control+z")
    saved(plan, 2)
    assert next(d for d in projects.load(house).project.drops if d.kind == "screen") == before


def test_a_drop_let_go_outside_goes_back(plan, house, projects):
    screen = drop(plan, "Screen, Living room")
    start, place = middle(plan, screen), screen.get_attribute("transform")
    frame = plan.locator("[data-plan]").bounding_box()
    drag(plan, start, (frame["x"] + 8 - start[0], 0))
    expect(plan.get_by_role("alert")).to_contain_text("No room is at that place")
    assert screen.get_attribute("transform") == place
    assert projects.load(house).revision == 0


def test_arrows_nudge_and_keys_double_and_remove(plan, house, projects):
    drop(plan, "Screen, Living room").locator(".hit").click()
    expect(plan.get_by_role("region", name="Screen, Living room")).to_be_visible()
    plan.keyboard.press("ArrowRight")
    saved(plan, 1)
    plan.keyboard.press("d")
    saved(plan, 2)
    screens = [d for d in projects.load(house).project.drops if d.kind == "screen"]
    assert [round(b.x_m - a.x_m, 3) for a, b in pairwise(screens)] == [0.5]
    plan.keyboard.press("Delete")
    saved(plan, 3)
    assert sum(d.kind == "screen" for d in projects.load(house).project.drops) == 1


def test_quick_nudges_lose_no_step(plan, house, projects):
    screen = drop(plan, "Screen, Living room")
    screen.locator(".hit").click()
    plan.keyboard.press("ArrowRight")
    saved(plan, 1)
    before = next(d for d in projects.load(house).project.drops if d.kind == "screen").x_m
    for _ in range(7):
        plan.keyboard.press("ArrowRight")
    saved(plan, 8)
    after = next(d for d in projects.load(house).project.drops if d.kind == "screen").x_m
    assert after - before == pytest.approx(0.7)
    expect(screen).to_have_attribute("transform", re.compile(f"^translate[(]{re.escape(f'{after:g}')} "))


def test_a_kind_is_put_where_it_is_pressed(plan, house, projects):
    choose(plan, "put a drop", "Camera")
    plan.mouse.click(*middle(plan, drop(plan, "Screen, Living room")))
    saved(plan, 1)
    put = projects.load(house).project.drops[-1]
    assert (put.kind, put.x_m is not None) == ("camera", True)


def test_drops_are_caught_and_aligned(plan, house, projects):
    frame = plan.locator("[data-plan]").bounding_box()
    plan.keyboard.down("Shift")
    drag(plan, (frame["x"] + 4, frame["y"] + 4), (frame["width"] - 8, frame["height"] - 8))
    plan.keyboard.up("Shift")
    plan.get_by_role("button", name="Align in a row").click()
    saved(plan, 1)
    project = projects.load(house).project
    here = [d for d in project.drops if project.rooms_by_id[d.room_id].floor_id == project.floors[0].id]
    assert len(here) > 3
    assert len({d.y_m for d in here}) == 1


def test_a_room_is_drawn_larger_and_may_not_cover_another(page, projects):
    rooms = (NewRoom(name="A", floor="G", outline=((0, 0), (4, 0), (4, 3), (0, 3))),
             NewRoom(name="B", floor="G", outline=((6, 0), (9, 0), (9, 3), (6, 3))))  # fmt: skip
    number = projects.create(apply_edits(empty_project("Rooms", 2026), [AddRooms(rooms=rooms)]))
    page.goto(f"/projects/{number}/walk/plan")
    room = page.locator("[data-room] polygon").first
    box = room.bounding_box()
    scale = box["width"] / 4
    page.get_by_role("button", name="Draw rooms").click()
    page.mouse.click(box["x"] + 20, box["y"] + box["height"] - 20)
    corner = (box["x"] + box["width"], box["y"] + box["height"])
    drag(page, corner, (scale, scale))
    saved(page, 1)
    outline = projects.load(number).project.rooms[0].outline
    assert (max(x for x, _ in outline), max(y for _, y in outline)) == pytest.approx((5, 4), abs=0.11)
    page.keyboard.press("Escape")
    drag(page, (corner[0] + scale - 30, corner[1] + scale - 20), (2.4 * scale, 0))
    expect(page.get_by_role("alert")).to_contain_text("A would cover")
    assert projects.load(number).project.rooms[0].outline == outline


def test_a_room_gets_a_corner_and_loses_it(page, projects):
    rooms = (NewRoom(name="A", floor="G", outline=((0, 0), (4, 0), (4, 3), (0, 3))),)
    number = projects.create(apply_edits(empty_project("Corners", 2026), [AddRooms(rooms=rooms)]))
    page.goto(f"/projects/{number}/walk/plan")
    box = page.locator("[data-room] polygon").bounding_box()
    page.get_by_role("button", name="Draw rooms").click()
    page.mouse.click(box["x"] + 20, box["y"] + box["height"] - 20)
    edge = page.locator("[data-edge='1']").bounding_box()
    drag(page, (edge["x"] + edge["width"] / 2, edge["y"] + edge["height"] / 2), (-box["width"] / 4, 0))
    saved(page, 1)
    outline = projects.load(number).project.rooms[0].outline
    assert len(outline) == 5
    assert outline[2] == pytest.approx((3, 1.5), abs=0.11)
    page.keyboard.down("Shift")
    page.locator("[data-corner='2']").click()
    page.keyboard.up("Shift")
    saved(page, 2)
    assert len(projects.load(number).project.rooms[0].outline) == 4


def test_a_wall_between_two_rooms_is_told_once_and_is_said_to_be_of_brick(page, projects):
    rooms = (NewRoom(name="A", floor="G", outline=((0, 0), (4, 0), (4, 3), (0, 3))),
             NewRoom(name="B", floor="G", outline=((4, 0), (9, 0), (9, 3), (4, 3))))  # fmt: skip
    number = projects.create(apply_edits(empty_project("Rooms", 2026), [AddRooms(rooms=rooms)]))
    page.goto(f"/projects/{number}/walk/plan")
    expect(page.locator("line.wall")).to_have_count(7)
    page.locator("[data-room] polygon").first.click()
    pieces = page.get_by_role("list", name="Walls").get_by_role("listitem")
    expect(pieces).to_have_count(4)
    piece = pieces.filter(has_text="to B")
    choose(piece, "3 m of wall, to B", "brick")
    saved(page, 1)
    expect(piece.get_by_label("Thickness")).to_have_attribute("placeholder", "~240")
    piece.get_by_label("Thickness").fill("115")
    page.keyboard.press("Enter")
    saved(page, 2)
    (wall,) = projects.load(number).project.walls
    assert (wall.material, wall.thickness_mm, wall.x_m, wall.to_x_m) == ("brick", 115, 4, 4)
    expect(page.locator("line.wall")).to_have_count(7)
    choose(piece, "3 m of wall, to B", "as the rooms say")
    saved(page, 3)
    expect(piece.get_by_label("Thickness")).to_have_attribute("placeholder", "~100")


def test_a_picture_lies_under_the_plan_and_is_scaled_by_two_points(plan, house, projects):
    out = io.BytesIO()
    Image.new("RGB", (400, 200), "white").save(out, "PNG")
    plan.get_by_label("Add a floor plan picture").set_input_files(
        files=[{"name": "plan.png", "mimeType": "image/png", "buffer": out.getvalue()}]
    )
    saved(plan, 1)
    frame = plan.locator("[data-plan]").bounding_box()
    width_px = plan.locator("[data-plan] image").bounding_box()["width"]
    at = (frame["x"] + 200, frame["y"] + 200)
    plan.mouse.click(*at)
    plan.mouse.click(at[0] + 120, at[1])
    plan.get_by_label("length between them").fill("3")
    plan.get_by_role("button", name="Scale", exact=True).click()
    saved(plan, 2)
    floor = next(f for f in projects.load(house).project.floors if f.picture)
    assert floor.picture_m_per_px * 400 == pytest.approx(3 / 120 * width_px, rel=0.02)
    plan.get_by_role("button", name="Remove the picture").click()
    saved(plan, 3)


def test_a_file_that_is_no_picture_is_told(plan):
    bad = b"<svg><script/></svg>"
    plan.get_by_label("Add a floor plan picture").set_input_files(
        files=[{"name": "x.svg", "mimeType": "image/svg+xml", "buffer": bad}]
    )
    expect(plan.get_by_role("alert")).to_contain_text("neither a view box nor a size")


def test_what_is_chosen_in_one_view_is_chosen_in_all(page, house):
    page.goto(f"/projects/{house}/walk/tally")
    page.get_by_label("Choose Printer 1, Study").check()
    expect(page.get_by_role("region", name="Printer, Study")).to_be_visible()
    page.get_by_role("link", name="Section", exact=True).click()
    chosen = page.locator("[data-drop][aria-pressed=true]")
    expect(chosen).to_have_attribute("aria-label", "Printer, Study")
    page.get_by_role("link", name="Plan", exact=True).click()
    expect(page.locator("[data-drop][aria-pressed=true]")).to_have_count(1)
    expect(page.get_by_role("button", name="First floor")).to_have_attribute("aria-pressed", "true")


def test_a_thousand_drops_are_dragged_without_a_long_frame(page, projects):
    rooms = tuple(NewRoom(name=f"R{n}", floor="G", width_m=10, depth_m=8) for n in range(10))
    ten = apply_edits(empty_project("Thousand", 2026), [AddRooms(rooms=rooms)])
    many = [SetTally(room_id=room.id, kind="jack", count=100) for room in ten.rooms]
    number = projects.create(apply_edits(ten, many))
    page.goto(f"/projects/{number}/walk/plan")
    expect(page.locator("[data-drop]")).to_have_count(1000)
    first = page.locator("[data-drop]").nth(150)
    start = middle(page, first)
    page.evaluate("""() => { window.frames_ms = []; let last = performance.now();
        const tick = now => { window.frames_ms.push(now - last); last = now; window.raf = requestAnimationFrame(tick) };
        window.raf = requestAnimationFrame(tick); }""")
    page.mouse.move(*start)
    page.mouse.down()
    page.mouse.move(start[0] + 4, start[1] + 4)
    page.wait_for_timeout(200)
    page.evaluate("() => { window.frames_ms.length = 0 }")
    page.mouse.move(start[0] + 40, start[1] + 40, steps=30)
    frames = page.evaluate("() => { cancelAnimationFrame(window.raf); return window.frames_ms }")
    page.mouse.up()
    saved(page, 1)
    assert len(frames) > 3
    print("longest frame while dragging [ms]:", max(frames))


def test_a_finger_chooses_and_moves_a_drop_on_a_phone(browser, server, house, projects):
    context = browser.new_context(base_url=server, viewport={"width": 390, "height": 844}, has_touch=True)
    page = context.new_page()
    page.goto(f"/projects/{house}/walk/plan")
    screen = drop(page, "Screen, Living room")
    expect(screen).to_be_visible()
    x, y = middle(page, screen)
    page.touchscreen.tap(x, y)
    expect(screen).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_role("region", name="Screen, Living room")).to_be_visible()
    drag(page, (x, y), (40, 25))
    saved(page, 1)
    assert next(d for d in projects.load(house).project.drops if d.kind == "screen").x_m is not None
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    context.close()
