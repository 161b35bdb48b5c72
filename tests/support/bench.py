"""Measures what must be quick, each beside its limit and what its time is made of."""

from __future__ import annotations

import os
import subprocess
import sys
import time
import urllib.request
from pathlib import Path
from statistics import median, quantiles
from urllib.parse import urlencode

from playwright.sync_api import sync_playwright

from cabrio.api.app import Settings, create_app
from cabrio.core.knowledge import knowledge
from cabrio.storage.database import open_engine
from tests.support import bench_core
from tests.support.browser import launch, serve, sign_in
from tests.support.client import INES, WEB, Person
from tests.support.database import fresh_url, named

ROOT = Path(__file__).resolve().parents[2]
misses = 0


def report(what: str, value: float, limit: float, unit: str, made_of: str) -> None:
    """One line beside its limit; a unit that says “at least” is a limit from below."""
    global misses
    kept = value >= limit if unit.endswith("at least") else value <= limit
    misses += not kept
    print(f"{what:<52}{value:>9.2f} {unit}, limit {limit:g}: {'kept' if kept else 'MISSED'}")
    print(f"    {made_of}")


def preview() -> None:
    """Write a slip and have all figures before and after back: the whole request."""
    app = create_app(Settings("bench", WEB, demo=True), open_engine(fresh_url()))
    ines = Person(app)
    ines.sign_in(INES)
    version, times = 0, []
    for i in range(300):
        code = ("65/180", "70/180")[i % 2]
        changes = [{"name": "spring", "place": p, "new": code} for p in ("LR", "RR")]
        start = time.perf_counter()
        version = ines.ok("PUT", "/api/cars/1/slip", {"version": version, "changes": changes})[
            "version"
        ]
        times.append((time.perf_counter() - start) * 1000)
    report(
        "preview of a slip, 95th percentile of 300",
        quantiles(times[20:], n=20)[-1],
        35,
        "ms",
        f"median {median(times[20:]):.1f} ms: the changed part of the graph, six queries, one commit",
    )


def judgement() -> None:
    """Advice for every complaint of the three demo cars, and a plan for three targets: whole requests."""
    app = create_app(Settings("bench", WEB, demo=True), open_engine(fresh_url()))
    ines = Person(app)
    ines.sign_in(INES)
    book, times = knowledge(), []
    for car, discipline in ((1, "circuit"), (2, "drag"), (3, "drift")):
        for symptom in book.work.symptoms_for(discipline):
            for phase in book.disciplines[discipline].phase_ids:
                asked = urlencode({"symptom": symptom.id, "phase": phase})
                start = time.perf_counter()
                ines.ok("GET", f"/api/cars/{car}/advice?{asked}")
                times.append((time.perf_counter() - start) * 1000)
    report(
        f"advice, 95th percentile of {len(times)} complaints",
        quantiles(times, n=20)[-1],
        250,
        "ms",
        f"median {median(times):.0f} ms: each usual cure tried on the car and loaded in a corner",
    )
    targets = [("axle_frequency", "front", "2.5"), ("axle_frequency", "rear", "2.45")]
    targets.append(("lltd", "car", "51"))
    body = {
        "targets": [{"name": n, "place": p, "value": v} for n, p, v in targets],
        "systems": ["springs", "bars"],
    }
    times = []
    for _ in range(5):
        start = time.perf_counter()
        found = ines.ok("POST", "/api/cars/1/plans", body)
        times.append(time.perf_counter() - start)
    report(
        f"plan for three targets of {found['count']} set-ups",
        median(times),
        2,
        "s",
        "each step tried, all combinations in batches, the best worked afresh",
    )


FETCHED = """() => performance.getEntriesByType('resource')
  .filter((one) => one.name.endsWith('.js'))
  .reduce((sum, one) => sum + one.encodedBodySize, 0)"""


def first_load() -> None:
    """From an empty browser to the garage on the screen, over loopback."""
    address, _ = serve(open_engine(fresh_url()))
    times = []
    with sync_playwright() as playwright:
        browser = launch(playwright)
        for _ in range(7):
            context = browser.new_context()
            page = context.new_page()
            sign_in(page, address, "Ines")
            cookies = context.cookies()
            context.close()
            cold = browser.new_context()
            cold.add_cookies(cookies)  # type: ignore[arg-type]
            page = cold.new_page()
            start = time.perf_counter()
            page.goto(f"{address}/cars/1/plan")
            page.get_by_role("heading", name="Car in plan").wait_for()
            times.append((time.perf_counter() - start) * 1000)
            fetched = float(page.evaluate(FETCHED))
            cold.close()
    report(
        "first load of a bench, median of 7",
        median(times),
        1500,
        "ms",
        "script to parse, then session, dictionary and bench, one after another",
    )
    every = sum(file.stat().st_size for file in (WEB / "assets").glob("*.js.gz"))
    report(
        "JavaScript that a first load fetches, gzipped",
        fetched / 1000,
        215,
        "kB",
        f"React, Bootstrap's, ours; of {every / 1000:.0f} kB for all views, which come when opened",
    )


PRESSED = """([press, watched]) => new Promise((done) => {
  const field = document.querySelector(press[0]);
  const seen = () => document.querySelector(watched)?.getAttribute('d') ??
    [...document.querySelectorAll(watched)].map((one) => one.textContent).join();
  field.focus();
  const before = seen();
  const start = performance.now();
  const look = () => {
    if (seen() !== before) {
      // a message posted in a frame is read once that frame is painted
      const painted = new MessageChannel();
      painted.port1.onmessage = () => done(performance.now() - start);
      painted.port2.postMessage(0);
    } else if (performance.now() - start > 4000) done(4000);
    else requestAnimationFrame(look);
  };
  field.dispatchEvent(new KeyboardEvent('keydown', { key: press[1], bubbles: true }));
  requestAnimationFrame(look);
})"""
"""From a key on a stepper to what is watched being drawn anew [ms]: text, or the line of a plot."""


def press_to_screen() -> None:
    """A step of a bar's hole to the figures it moves, and a step of a rubber's gap to its plot."""
    address, stop = serve(open_engine(fresh_url()))
    with sync_playwright() as playwright:
        browser = launch(playwright)
        page = browser.new_page()
        sign_in(page, address, "Ines")
        for what, view, field, watched, limit, made_of in (
            (
                "press to new figures on screen, 95th percentile of 30",
                "bars",
                "[aria-label^='Bar hole, front']",
                ".big-figure",
                80,
                "the slip written and previewed on the server, then drawn",
            ),
            (
                "press to a plot redrawn, 95th percentile of 30",
                "clearance",
                "[aria-label^='Bump rubber gap, front']",
                ".chart-panel .curve.is-drafted:nth-of-type(3n)",
                120,
                "the same, then two loaded cars over 32 speeds, booked and drafted",
            ),
        ):
            page.goto(f"{address}/cars/1/{view}")
            page.wait_for_load_state("networkidle")
            page.locator(field).first.press("ArrowDown")
            page.wait_for_timeout(1500)
            times = []
            for i in range(34):
                key = "ArrowUp" if i % 2 else "ArrowDown"
                times.append(float(page.evaluate(PRESSED, [[field, key], watched])))
                # what takes the server long follows a press, and is over before the next
                page.wait_for_timeout(2000)
            report(what, quantiles(times[4:], n=20)[-1], limit, "ms", made_of)
        browser.close()
    stop()


FRAMES = """() => {
  window.frames = [];
  const frame = (at) => { window.frames.push(at); requestAnimationFrame(frame); };
  requestAnimationFrame(frame);
}"""


def dragging() -> None:
    """A bolt dragged up and down its bracket: frames drawn a second while it goes from hole to hole."""
    address, stop = serve(open_engine(fresh_url()))
    with sync_playwright() as playwright:
        browser = launch(playwright)
        page = browser.new_page()
        sign_in(page, address, "Ines")
        page.goto(f"{address}/cars/2/links")
        bolt = page.get_by_role("slider", name="upper chassis hole")
        bolt.wait_for()
        page.wait_for_load_state("networkidle")
        bolt.scroll_into_view_if_needed()
        box = bolt.bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.evaluate(FRAMES)
        for i in range(120):
            page.mouse.move(x, y + 40 * (1 if i // 30 % 2 else -1) * (i % 30) / 30)
        drawn: list[float] = page.evaluate("window.frames")
        page.mouse.up()
        # it ended on another hole than it started from
        page.locator(".side-figures .drafted").first.wait_for(timeout=5000)
        browser.close()
    stop()
    report(
        "frames a second while a bolt is dragged",
        1000 * (len(drawn) - 1) / (drawn[-1] - drawn[0]),
        30,
        "at least",
        f"{len(drawn)} frames: the drawing in the browser, the figures as the server answers",
    )


def second_start() -> None:
    """The app's own second start: schema checked, data there, first answer given."""
    url = fresh_url()
    env = os.environ | {
        "CABRIO_DATABASE": url,
        "CABRIO_SECRET": "a secret of the bench",
        "CABRIO_DEMO": "1",
        "CABRIO_WEB": str(WEB),
    }
    times = []
    opener = urllib.request.build_opener(urllib.request.ProxyHandler({}))
    for port in (8761, 8762, 8763):
        start = time.perf_counter()
        app = subprocess.Popen(
            [sys.executable, "-m", "cabrio", "serve", "--port", str(port)], env=env, cwd=ROOT
        )
        while True:
            try:
                opener.open(f"http://127.0.0.1:{port}/api/health", timeout=1).close()
                break
            except OSError:
                time.sleep(0.02)
        times.append(time.perf_counter() - start)
        app.terminate()
        app.wait()
    report(
        "second start of the app, median of 3",
        median(times),
        6,
        "s",
        "Python's imports (numpy, SQLAlchemy, pint); the launcher adds the database's 1 to 1.5 s",
    )


def main() -> int:
    bench_core.measure(report)
    if "core" not in sys.argv[1:]:
        assert named("postgres")
        preview()
        judgement()
        first_load()
        press_to_screen()
        dragging()
        second_start()
    print("\nevery limit is kept" if not misses else f"\n{misses} of the limits missed")
    return 1 if misses else 0


if __name__ == "__main__":
    sys.exit(main())
