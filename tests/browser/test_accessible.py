"""axe finds nothing on any view, by day and by night; the page stays light."""

import gzip

from playwright.sync_api import expect

from ..conftest import ROOT

AXE = (ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text("utf-8")


VIEWS = {
    "brief": "signal walk with a phone, noted room by room",
    "walk/plan": "Plant room closet",
    "walk/section": "Look from the other side",
    "walk/list": "Small parts for these drops",
    "walk/history": "Nothing was changed yet.",
    "cover": "Number plates at the gate",
    "cover/standing": "blind for",
    "cover/best": "Use these places",
    "cover/kept": "disks of",
    "cover/site": "Own ground",
    "cover/signal": "behind Kiln racks",
    "cover/channels": "least time in all",
    "cover/places": "Use these places",
    "cover/survey": "Losses that the readings tell",
    "reach": "Yard duct",
    "reach/section": "Look from the other side",
    "reach/closets": "the best found; no set of so many",
    "reach/setting-out": "Iron column",
    "reach/pulls": "Leave a draw string",
    "reach/cable": "panel jack",
    "load": "From mains: ",
    "stack": "Rack shelf, 2 units, 350 mm",
    "stack/air": "at the top, over",
    "stack/cut": "must begin to shut down",
    "stack/housing": "beside the panels, for the next one",
    "patch": "Nothing to move.",
    "patch/networks": "Settings of all boxes, JSON",
    "patch/addresses": "Who keeps an address",
    "patch/labels": "every label is on its cable",
    "patch/found": "as planned",
    "price": "no choice keeps more",
    "price/work": "This house’s own hours",
    "price/visits": "no plan has fewer",
    "price/phases": "no way to buy them in phases costs less",
    "price/moving": "Old boxes go off",
    "price/offers": "Changed since it was sent",
    "price/paid": "Still to pay",
    "prove": "Hours estimated and worked",
    "prove/bench": "through the bench",
    "prove/power-up": "Wrong cabling first",
    "prove/runs": "Press a run",
    "prove/tracing": "Last steps",
    "prove/acceptance": "Accepted by",
}
"""Addresses of views, and a text of each that comes last."""


REACH = [view for view in VIEWS if view.startswith("reach/")]


def violations(page, sheet_open=False, within="body"):
    """An open sheet lies outside the landmarks on purpose: everything else is hidden from readers meanwhile."""
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE)
    page.emulate_media(color_scheme="light")
    rules = {"region": {"enabled": not sheet_open}}
    found = page.evaluate(
        "([within, rules]) => axe.run(within, {resultTypes: ['violations'], rules})", [within, rules]
    )["violations"]
    # by night only the colours are others
    page.emulate_media(color_scheme="dark")
    by_night = "within => axe.run(within, {resultTypes: ['violations'], runOnly: ['color-contrast']})"
    found += page.evaluate(by_night, within)["violations"]
    return [(v["id"], [node["target"] for node in v["nodes"]][:4]) for v in found]


def go(page, path):
    """To another view of the page that is open, as a link there would."""
    page.evaluate("path => { history.pushState({}, '', path); dispatchEvent(new PopStateEvent('popstate')) }", path)


def test_no_view_has_an_axe_violation_by_day_or_by_night(page, works, projects):
    from baugrund.core.facts.project import empty_project

    page.goto("/projects")
    expect(page.get_by_role("link", name="Dye works pottery").first).to_be_visible()
    assert violations(page) == []
    page.goto(f"/projects/{projects.create(empty_project('Empty', 2026))}/walk")
    expect(page.get_by_role("button", name="Rooms of a house")).to_be_visible()
    assert violations(page) == []
    page.goto(f"/projects/{works}/walk")
    expect(page.locator("[data-capacity=ports]")).to_be_visible()
    assert violations(page) == []
    page.keyboard.press("/")
    page.keyboard.type("2 cam nowhere")
    expect(page.locator("[data-role=unknown]")).to_be_visible()
    assert violations(page) == []
    page.keyboard.press("Escape")
    for view, shown in VIEWS.items():
        # what stands around the view was looked at with the first ones
        go(page, f"/projects/{works}/{view}")
        expect(page.get_by_text(shown).first).to_be_visible()
        expect(page.locator("[data-capacity=ports]")).to_be_visible()
        assert violations(page, within="main") == [], view
    page.goto("/catalogues")
    page.get_by_role("checkbox", name="Compare: 24-port switch, plain").check()
    page.get_by_role("checkbox", name="Compare: 16-port switch, plain").check()
    page.get_by_role("button", name="24-port switch, plain").click()
    expect(page.get_by_role("textbox", name="Own draw W")).to_be_visible()
    assert violations(page) == []
    for view, shown in (("Compare", "Efficiency %"), ("Import", "Recorder cameras"), ("Editions", "began it")):
        page.get_by_role("link", name=view).click()
        expect(page.get_by_text(shown).first).to_be_visible()
        assert violations(page) == [], view
    page.goto(f"/projects/{works}/pick")
    expect(page.get_by_role("region", name="Answer A year by year").get_by_text("horizon")).to_be_visible()
    expect(page.get_by_role("region", name="Parts of A")).to_be_visible()
    expect(page.get_by_text("models not taken")).to_be_visible()
    expect(page.get_by_role("article", name="Most room").locator("strong")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="in reserve to").click()
    assert violations(page, sheet_open=True) == []


def test_a_phone_shows_no_sideways_scroll(page, works):
    page.set_viewport_size({"width": 360, "height": 740})
    for verb in (
        "brief",
        "walk",
        "walk/plan",
        "walk/section",
        "walk/list",
        "cover/signal",
        "cover/channels",
        "cover/survey",
        "reach",
        *REACH,
        "load",
        "pick",
        "patch",
        "patch/networks",
        "patch/addresses",
        "patch/labels",
        "patch/found",
        "price",
        "price/work",
        "price/visits",
        "price/phases",
        "price/moving",
        "price/offers",
        "price/paid",
        "prove",
        "prove/bench",
        "prove/power-up",
        "prove/runs",
        "prove/tracing",
        "prove/acceptance",
    ):
        page.goto(f"/projects/{works}/{verb}")
        expect(page.locator("[data-capacity=ports]")).to_be_visible()
        assert page.evaluate("document.documentElement.scrollWidth") <= 360
    for view in ("lines", "compare", "import", "editions"):
        page.goto(f"/catalogues/1/{view}")
        expect(page.get_by_role("link", name="House list")).to_be_visible()
        assert page.evaluate("document.documentElement.scrollWidth") <= 360


def test_the_first_load_is_under_300_kb_gzip(page, house):
    loaded = []
    page.on("response", lambda answer: loaded.append(answer) if "/assets/" in answer.url else None)
    page.goto(f"/projects/{house}/walk/tally")
    expect(page.get_by_role("gridcell").first).to_be_visible()
    code = [answer.body() for answer in loaded if answer.url.endswith((".js", ".css"))]
    assert len(code) > 3
    assert sum(len(gzip.compress(content)) for content in code) < 300_000
