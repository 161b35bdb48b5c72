"""Makes docs/screenshots from the demo data: one current picture of each main view."""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, expect, sync_playwright

from cabrio.storage.database import open_engine
from tests.support.browser import launch, read_now, serve, sign_in
from tests.support.database import fresh_url

FOLDER = Path(__file__).resolve().parents[2] / "docs" / "screenshots"
Act = Callable[[Page], None]


def _nothing(page: Page) -> None:
    pass


def _fit(page: Page) -> None:
    page.get_by_role("button", name="fit 65/180 rear").click()
    expect(page.get_by_text("Spring, both rear")).to_be_visible()
    page.get_by_role("heading", name="Springs", level=1).scroll_into_view_if_needed()
    page.evaluate("window.scrollTo(0, 0)")


def _slip(page: Page) -> None:
    page.get_by_role("spinbutton", name="Spring, left rear").press("ArrowUp")
    page.get_by_role("spinbutton", name="Compression, left front").press("ArrowDown")
    expect(page.get_by_text("Two systems on one slip")).to_be_visible()


def _working(page: Page) -> None:
    page.get_by_role("button", name="Ride frequency, LR").click()
    expect(page.get_by_role("dialog")).to_contain_text("Source")


def _pads(page: Page) -> None:
    read_now(page, "Pads")


def _geometry(page: Page) -> None:
    expect(page.get_by_role("img", name="The front axle from behind")).to_be_visible()
    page.evaluate("document.querySelector('.geometry').scrollIntoView()")


def _treads(page: Page) -> None:
    expect(page.get_by_role("img", name="LF: outer")).to_be_visible()
    page.evaluate("window.scrollTo(0, document.querySelector('.treads').offsetTop - 90)")


def _ladder(page: Page) -> None:
    page.get_by_role("button", name="Front 3, rear 2").click()
    expect(page.get_by_text("Bar hole, rear").first).to_be_visible()
    page.wait_for_timeout(1500)
    page.evaluate("window.scrollTo(0, document.querySelector('.under-load').offsetTop - 70)")


def _charts(page: Page) -> None:
    expect(page.get_by_role("img", name="Damper force at the wheel")).to_be_visible()
    page.evaluate(
        "window.scrollBy(0, document.querySelector('.bands-panel').getBoundingClientRect().top - 70)"
    )


def _hole(page: Page) -> None:
    page.get_by_role("slider", name="upper chassis hole").press("ArrowUp")
    expect(page.locator(".side-figures .drafted").first).to_be_visible()


def _plans(page: Page) -> None:
    expect(page.get_by_role("listitem", name="Plan 1")).to_be_visible()


def _part(page: Page) -> None:
    page.get_by_role("button", name="Edit D-LF").click()


PICTURES: list[tuple[str, str, int, str, Act]] = [
    ("garage", "/", 1280, "day", _nothing),
    (
        "work",
        "/cars/2/work?t=rear_bite:car:90&t=anti_squat:car:120&s=links",
        1280,
        "day",
        _plans,
    ),
    ("plan", "/cars/1/plan", 1280, "day", _nothing),
    ("weights", "/cars/1/weights", 1280, "day", _nothing),
    ("tyres", "/cars/1/tyres", 1280, "day", _treads),
    ("springs", "/cars/1/springs", 1280, "day", _fit),
    ("slip", "/cars/1/plan", 1280, "night", _slip),
    ("working", "/cars/1/plan", 1280, "day", _working),
    ("logbook", "/cars/1/logbook", 1280, "day", _nothing),
    ("compare", "/cars/1/compare?left=2&right=3", 1280, "day", _nothing),
    ("advise", "/cars/1/advise?symptom=understeer&phase=mid-corner", 1280, "day", _nothing),
    ("links", "/cars/2/links", 1280, "day", _hole),
    ("alignment", "/cars/3/alignment", 1280, "day", _nothing),
    ("dampers", "/cars/1/dampers", 1280, "day", _charts),
    ("bars", "/cars/1/bars", 1280, "day", _ladder),
    ("geometry", "/cars/1/alignment", 1280, "day", _geometry),
    ("parts", "/cars/1/parts", 1280, "day", _part),
    ("tablet", "/cars/2/steps/drag_build?step=6", 820, "day", _nothing),
    ("phone", "/cars/1/weights", 390, "night", _pads),
]


def main() -> int:
    address, _ = serve(open_engine(fresh_url()))
    FOLDER.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = launch(playwright)
        for name, path, width, theme, act in PICTURES:
            context = browser.new_context(viewport={"width": width, "height": 800})
            context.add_init_script(f"localStorage.setItem('theme', '{theme}')")
            page = context.new_page()
            sign_in(page, address, "Ines")
            page.goto(address + path)
            page.wait_for_load_state("networkidle")
            act(page)
            page.wait_for_timeout(500)
            page.screenshot(path=FOLDER / f"{name}.png")
            print(f"  {name}.png")
            if act in (_fit, _slip, _ladder, _hole):
                with page.expect_response("**/slip"):
                    page.get_by_role("button", name="Clear").click()
                expect(page.get_by_text("Nothing on the slip")).to_be_visible()
            context.close()
    return 0


if __name__ == "__main__":
    sys.exit(main())
