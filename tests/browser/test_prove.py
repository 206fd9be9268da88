"""Prove: a run is measured on a phone, a tester's file comes in, and the simulated tester through the same door."""

import io

from PIL import Image
from playwright.sync_api import expect

from .controls import choose


def saved(page, revision):
    expect(page.get_by_role("status").filter(has_text=f"revision {revision}, saved")).to_be_visible()


def test_a_run_is_measured_with_a_thumb_and_passes_when_it_is_mended(page, works, projects):
    page.set_viewport_size({"width": 360, "height": 740})
    page.goto(f"/projects/{works}/prove/runs")
    expect(page.get_by_text("21 passed, 2 failed, 23 still to test")).to_be_visible()
    choose(page, "Shown", "failed")
    page.get_by_role("button", name="020 Recorder, Plant room").click()
    sheet = page.get_by_role("region", name="Recorder, Plant room")
    expect(sheet.get_by_text("Pin 4 is open.")).to_be_visible()
    expect(sheet.get_by_text("Pair 4-5 is wrong")).to_be_visible()
    # every pin ends where it should but two that are exchanged: the next pin is chosen by itself
    sheet.get_by_role("button", name="All straight").click()
    sheet.get_by_role("button", name="Pin 4 of the closet").click()
    sheet.get_by_role("button", name="Ends on pin 5").click()
    expect(sheet.get_by_text("4→5 5→–")).to_be_visible()
    sheet.get_by_role("button", name="Ends on pin 4").click()
    expect(sheet.get_by_text("4→5 5→4")).to_be_visible()
    sheet.get_by_role("button", name="All straight").click()
    sheet.get_by_label("Length").fill("13,4")
    choose(sheet, "Link", "1 Gbit/s")
    sheet.get_by_label("By").fill("Ben")
    sheet.get_by_role("button", name="Write it down").click()
    saved(page, 1)
    test = projects.load(works).project.run_tests[-1]
    assert (test.pins, test.length_m, test.speed_mbit, test.by) == ((1, 2, 3, 4, 5, 6, 7, 8), 13.4, 1000, "Ben")
    assert test.at is not None
    choose(page, "Shown", "all runs")
    expect(page.get_by_text("22 passed, 1 failed, 23 still to test")).to_be_visible()
    tests = page.get_by_role("region", name="Tests of this run")
    expect(tests.get_by_role("listitem")).to_have_count(2)


def test_a_file_of_a_tester_is_kept_but_for_lines_that_cannot_be(page, works, projects, tmp_path):
    page.goto(f"/projects/{works}/prove/runs")
    file = tmp_path / "tester.csv"
    file.write_text("Cable,Wire map,Length,Link\n016,12345678,20,1G\nX99,12345678,20,1G\n022,21345678,32,1G\n")
    with page.expect_file_chooser() as chosen:
        page.get_by_role("button", name="Bring a tester’s file").click()
    chosen.value.set_files(file)
    saved(page, 1)
    expect(page.get_by_text("Left out: line 3: Label: no run is labelled X99.")).to_be_visible()
    assert [test.pins[:2] for test in projects.load(works).project.run_tests[-2:]] == [(1, 2), (2, 1)]
    expect(page.get_by_text("20 passed, 3 failed, 23 still to test")).to_be_visible()


def test_the_simulated_tester_measures_every_run(page, house, projects):
    page.goto(f"/projects/{house}/prove/runs")
    page.get_by_label("its faults").fill("7")
    page.get_by_role("button", name="Ask the simulated tester").click()
    saved(page, 1)
    project = projects.load(house).project
    assert len(project.run_tests) == 36, "those of before are kept"
    expect(page.get_by_text("failed, 0 still to test")).to_be_visible()
    with page.expect_download() as taken:
        page.get_by_role("link", name="CSV").click()
    assert "failed" in taken.value.path().read_text(encoding="utf-8-sig")


def test_a_photo_stays_with_its_test(page, works, projects):
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"/projects/{works}/prove/runs")
    page.get_by_role("button", name="020 Recorder, Plant room").click()
    out = io.BytesIO()
    Image.new("RGB", (60, 40), "blue").save(out, "JPEG")
    page.get_by_role("region", name="Tests of this run").get_by_label("Add a photo").set_input_files(
        files=[{"name": "end.jpg", "mimeType": "image/jpeg", "buffer": out.getvalue()}]
    )
    saved(page, 1)
    expect(page.get_by_role("img", name="Photo 1")).to_be_visible()
    recorder = next(drop.id for drop in projects.load(works).project.drops if drop.kind == "recorder")
    assert [len(test.photos) for test in projects.load(works).project.run_tests if test.drop_id == recorder] == [1]
