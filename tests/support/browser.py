"""The real page in Debian's Chromium, over a real server and a real PostgreSQL."""

from __future__ import annotations

import os
from collections.abc import Callable
from contextlib import suppress
from functools import cache
from math import hypot
from multiprocessing.util import Finalize
from time import monotonic
from typing import Any
from weakref import WeakKeyDictionary

from launcher.machine import CHROMIUM
from playwright.sync_api import Browser, Error, Locator, Page, Request, expect, sync_playwright
from sqlalchemy import Engine

from cabrio.api.app import Settings, create_app
from cabrio.api.bodies import LARGEST
from cabrio.api.live import KEY, STREAMS, Live
from cabrio.instruments.simulated_gauge import SimulatedGauge
from cabrio.instruments.simulated_pads import SimulatedPads
from cabrio.serving import Server
from tests.support.client import WEB
from tests.support.database import DatabaseTestCase

ROOT_FLAGS = ["--no-sandbox"] if os.geteuid() == 0 else []
FLAGS = [
    *ROOT_FLAGS,
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-sync",
    "--disable-background-networking",
    "--disable-component-update",
    "--no-proxy-server",
    "--host-resolver-rules=MAP * ~NOTFOUND , EXCLUDE 127.0.0.1",
]
AXE = WEB.parent / "node_modules" / "axe-core" / "axe.min.js"


SECRET = "a secret of the tests"
"""What sign-ins are sealed by: an app that is started again knows them by the same."""


def launch(playwright: Any) -> Browser:
    browser: Browser = playwright.chromium.launch(
        executable_path=CHROMIUM, headless=True, args=FLAGS
    )
    return browser


@cache
def shared_browser() -> Browser:
    """The one browser of this process of tests, closed as the process ends."""
    playwright = sync_playwright().start()
    browser = launch(playwright)

    def close() -> None:
        browser.close()
        playwright.stop()

    # a worker of a pool runs its finalizers, not what stands at `atexit`
    Finalize(None, close, exitpriority=10)
    return browser


def serve(engine: Engine) -> tuple[str, Callable[[], None]]:
    """The real app on a free port, served from a thread: its address, and what stops it."""
    pads, gauge = SimulatedPads(), SimulatedGauge()
    app = create_app(
        Settings(SECRET, web=WEB, demo=True, pads=pads.start(), gauge=gauge.start()), engine
    )
    live: Live = app.extensions[KEY]
    live.listen(engine)
    server = Server(app, "127.0.0.1", 0, LARGEST, STREAMS)
    server.start()

    def stop() -> None:
        server.stop(live.close)
        for device in (pads, gauge):
            device.shutdown()
            device.server_close()

    return f"http://127.0.0.1:{server.port}", stop


def sign_in(page: Page, address: str, who: str) -> None:
    page.goto(address)
    page.get_by_role("button", name=who).first.click()
    expect(page.get_by_role("heading", name="Garage")).to_be_visible()


SECOND_PRESS_MS, NEAR_PX = 500, 24
"""As the page has it: a second press so soon in so near a place lands on nothing else."""
_last: WeakKeyDictionary[Page, tuple[float, float, float]] = WeakKeyDictionary()
_click = Locator.click


def _click_as_a_hand(locator: Locator, **how: Any) -> None:
    """Click, but not where the page would take it for the second press of the click before."""
    page, here = locator.page, None
    with suppress(Error):  # it may be drawn anew just now: the click itself waits for that
        locator.scroll_into_view_if_needed()
        here = locator.bounding_box()
    if here is not None:
        x, y = here["x"] + here["width"] / 2, here["y"] + here["height"] / 2
        at, before_x, before_y = _last.get(page, (0.0, 0.0, 0.0))
        since = 1000 * (monotonic() - at)
        if since < SECOND_PRESS_MS and hypot(x - before_x, y - before_y) < NEAR_PX:
            page.wait_for_timeout(SECOND_PRESS_MS - since)
    _click(locator, **how)
    if here is not None:
        _last[page] = monotonic(), x, y


setattr(Locator, "click", _click_as_a_hand)  # noqa: B010 - a method of another package


def read_now(page: Page, label: str = "") -> None:
    """Open the form of a reading; the station's caution is acknowledged where it is asked first."""
    page.get_by_role("button", name=f"Read now {label}".strip()).click()
    understood = page.get_by_role("button", name="Understood")
    if understood.count():
        understood.click()
        expect(understood).to_be_hidden()


class BrowserTestCase(DatabaseTestCase):
    """A server for the class, the process's browser; each test opens pages of its own."""

    address: str

    def setUp(self) -> None:
        super().setUp()
        self.unheard: dict[Page, set[Request]] = {}

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.address, stop = serve(cls.app_engine)
        cls.addClassCleanup(stop)
        cls.browser = shared_browser()

    def open(
        self, who: str = "Ines", path: str = "/", width: int = 1280, theme: str = "day"
    ) -> Page:
        """A person's page, signed in. Errors in its console fail the test."""
        context = self.browser.new_context(viewport={"width": width, "height": 800})
        self.addCleanup(context.close)
        context.add_init_script(f"localStorage.setItem('theme', '{theme}')")
        page = context.new_page()
        page.set_default_timeout(60_000)
        expect.set_options(timeout=60_000)
        self.watch_writes(page)
        page.on("pageerror", lambda error: self.fail(f"the page broke: {error}"))
        sign_in(page, self.address, who)
        if path != "/":
            page.goto(self.address + path)
        return page

    def watch_writes(self, page: Page) -> None:
        """Count what the page has sent to be kept and not yet heard of."""
        unheard = self.unheard[page] = set[Request]()
        page.on("request", lambda sent: unheard.add(sent) if sent.method != "GET" else None)
        page.on("requestfinished", lambda sent: unheard.discard(sent))
        page.on("requestfailed", lambda sent: unheard.discard(sent))

    def let_it_write(self, page: Page) -> None:
        """Wait as a person does before leaving: until what was pressed is kept. An address typed into the
        window at once would end the request half way."""
        page.evaluate("new Promise(done => requestAnimationFrame(() => setTimeout(done)))")
        for _ in range(400):
            if not self.unheard.get(page):
                return
            page.wait_for_timeout(25)
        self.fail(f"not answered within 10 s: {[sent.url for sent in self.unheard[page]]}")

    def assert_accessible(self, page: Page) -> None:
        """No serious violation by axe, and nothing wider than the window."""
        page.wait_for_load_state("networkidle")
        page.wait_for_timeout(350)  # panels slide in: colours are judged when they stand still
        page.evaluate(AXE.read_text())
        found = page.evaluate(
            "axe.run(document, {resultTypes: ['violations']}).then(r => r.violations.map("
            "v => [v.impact, v.id, v.nodes.slice(0, 3).map(n => n.html).join(' ')]))"
        )
        serious = [row for row in found if row[0] in ("serious", "critical")]
        self.assertEqual(serious, [])
        width = page.evaluate("[document.documentElement.scrollWidth, window.innerWidth]")
        self.assertLessEqual(width[0], width[1] + 1, "the page scrolls sideways")


CORNERS = {"LF": "Left front", "RF": "Right front", "LR": "Left rear", "RR": "Right rear"}
PADS = {"LF": "720", "RF": "715", "LR": "640", "RR": "652"}


class OwnCarTestCase(BrowserTestCase):
    """Tests of a car that the test itself made on screen."""

    def make(self, name: str, **chosen: str) -> Page:
        """A new car with its four pads: what a person types in the first minute."""
        page = self.open()
        page.get_by_role("button", name="New car").click()
        form = page.get_by_role("form", name="New car")
        form.get_by_label("Name").fill(name)
        for label, value in chosen.items():
            form.get_by_label(label.replace("_", " ").capitalize()).select_option(value)
        for place, typed in PADS.items():
            form.get_by_label(f"{CORNERS[place]} weight").fill(typed)
        form.get_by_role("button", name="Add the car").click()
        expect(page.get_by_role("heading", name="Car in plan")).to_be_visible()
        return page

    def car(self, page: Page) -> str:
        return page.url.split("/cars/")[1].split("/")[0]

    def bench(self, page: Page) -> Any:
        return page.request.get(f"{self.address}/api/cars/{self.car(page)}").json()

    def words(self, page: Page) -> Any:
        return page.request.get(f"{self.address}/api/vocabulary").json()

    def go(self, page: Page, view: str) -> None:
        self.let_it_write(page)
        page.goto(f"{self.address}/cars/{self.car(page)}/{view}")
        expect(page.get_by_role("heading", level=1)).to_be_visible()


COUNT = """
window.presses = Number(sessionStorage.getItem('presses') ?? 0);
const count = () => sessionStorage.setItem('presses', String(++window.presses));
addEventListener('pointerdown', count, true);
addEventListener('keydown', (event) => event.key.length > 1 && count(), true);
"""


class CountedTestCase(BrowserTestCase):
    """Counts the presses that a person makes."""

    def start(self, path: str) -> Page:
        page = self.open(path=path)
        page.add_init_script(COUNT)
        page.reload()
        page.evaluate("sessionStorage.setItem('presses', '0')")
        page.evaluate("window.presses = 0")
        return page

    def taken(self, page: Page) -> int:
        return int(page.evaluate("Number(sessionStorage.getItem('presses'))"))
