"""The page in Chromium: from a key typed, or a grip moved, to the verdict redrawn; and how much script it loads.

Run by `./fletcher bench browser`, which provides the database and the environment.
"""

from __future__ import annotations

import gzip
import os
import re
import socket
import statistics
import subprocess
import sys
import time
import urllib.request
from collections.abc import Callable
from functools import partial
from pathlib import Path

from playwright.sync_api import Page, Response, TimeoutError, sync_playwright

ROOT = Path(__file__).resolve().parents[1]

# from the page's own input event to the end of the first frame that shows the changed verdict
WATCH = """() => {
  window.measured = [];
  const verdict = document.querySelector('footer[aria-label=Verdict]')
    ?? document.querySelector('section[aria-label="Adhesives, best first"]')
    ?? document.querySelector('section[aria-label=Verdict]');
  let since = null;
  const first = !window.started;
  window.started = () => { since ??= performance.now(); };
  window.unchanged = () => { since = null; };
  if (first)
    for (const kind of ['input', 'keydown', 'pointermove']) window.addEventListener(kind, () => window.started(), true);
  window.watching?.disconnect();
  window.watching = new MutationObserver(() => {
    if (since === null) return;
    const from = since; since = null;
    requestAnimationFrame(() => setTimeout(() => window.measured.push(performance.now() - from)));
  });
  window.watching.observe(verdict, { subtree: true, childList: true, characterData: true });
}"""


# two frames after the answer has come, whatever it changes is on the screen
DRAWN = """() => new Promise((done) =>
  setTimeout(() => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done)))))"""

# frames of which script, style and layout together took long enough to be noticed, and the script in them
FRAMES = """() => {
  window.frames_seen = [];
  new PerformanceObserver((list) => {
    for (const f of list.getEntries())
      window.frames_seen.push(f.scripts.reduce((sum, s) => sum + s.duration, 0));
  }).observe({ type: 'long-animation-frame', buffered: false });
}"""


def spread(name: str, ms: list[float]) -> None:
    ms = sorted(ms)
    p95 = ms[min(len(ms) - 1, int(0.95 * len(ms)))]
    print(f"{name:<58} median {statistics.median(ms):7.1f} ms   95 % {p95:7.1f} ms   wanted 95 % < 150 ms")


def first_answer(r: Response) -> bool:
    """Whether this is what the page redraws its verdict, or its ranking, from."""
    return r.url.endswith(("/glue", "/balance")) or (
        r.url.endswith("/estimate") and '"quick":true' in (r.request.post_data or "")
    )


def measure(page: Page, act: list[Callable[[], object]]) -> list[float]:
    """Milliseconds of each act until the verdict is redrawn. An act that asks nothing, or whose first answer changes no
    figure, is left out: a full answer with more samples follows once things rest."""
    page.evaluate(WATCH)
    for one in act:
        known = page.evaluate("window.measured.length")
        try:
            with page.expect_response(first_answer, timeout=1_000):
                one()
            page.evaluate(DRAWN)
        except TimeoutError:
            page.evaluate("known => { window.measured.length = known; }", known)
        page.evaluate("window.unchanged()")
    return [float(ms) for ms in page.evaluate("window.measured")]


def script_size() -> None:
    dist = ROOT / "frontend" / "dist"
    first = re.findall(r'(?:src|href)="[^"]*?(assets/[^"]+\.js)"', (dist / "index.html").read_text())
    size = sum(len(gzip.compress((dist / name).read_bytes(), 9)) for name in first)
    print(f"{'first page: script, compressed':<58} {size / 1024:14.0f} kB   wanted < 350 kB")


def entered(page: Page, address: str) -> None:
    """From a click on the Shelf to the part drawn on the Bench, and to its verdict: each part once, not asked before by
    the Bench (the Shelf has asked for its verdict in brief)."""
    page.goto(address)
    links = page.get_by_role("link", name=re.compile("^Open .* on the Bench$"))
    links.first.wait_for()
    names = [str(name) for name in links.evaluate_all("all => all.map(a => a.ariaLabel ?? a.textContent)")]
    drawn, told = [], []
    for name in dict.fromkeys(names):
        page.goto(address)
        link = page.get_by_role("link", name=name, exact=True).first
        link.wait_for()
        started = time.perf_counter()
        link.click()
        page.get_by_role("tab", name="Drawing", exact=True).wait_for()
        drawn.append(1e3 * (time.perf_counter() - started))
        page.get_by_text("Breaks first").first.wait_for()
        told.append(1e3 * (time.perf_counter() - started))
    for what, ms, most in (("Bench drawn", drawn, "1 s"), ("verdict", told, "2 s")):
        print(
            f"{f'click on the Shelf to {what}, {len(ms)} parts':<58} median {statistics.median(ms):7.1f} ms   "
            f"most {max(ms):7.1f} ms   wanted < {most}"
        )


def dragged(page: Page) -> None:
    """A spar's end dragged on a wing of sixty stations with three variants pinned up: step by step, then without a
    pause at the pace of frames."""
    page.get_by_role("combobox", name="Compare with variant").select_option(index=1)
    box = page.get_by_role("slider", name="End of this item").bounding_box()
    assert box
    x, y = box["x"] + 20, box["y"] + 20
    page.mouse.move(x, y)
    page.mouse.down()
    spread("spar dragged, three variants pinned, to verdict redrawn", measure(page, [
        partial(page.mouse.move, x + 8 + 4 * (n % 40), y) for n in range(60)
    ]))  # fmt: skip
    without_pause(page, x + 8, y)


def without_pause(page: Page, x: float, y: float) -> None:
    """What is held moved to and fro at the pace of frames, and let go."""
    page.evaluate(FRAMES)
    moves = 150
    started = time.monotonic()
    for n in range(moves):
        page.mouse.move(x + 3 * abs(n % 60 - 30), y)
    page.mouse.up()
    page.wait_for_load_state("networkidle")
    slow = page.evaluate("window.frames_seen")
    seconds, most = time.monotonic() - started, max(slow, default=0)
    print(
        f"{'dragged on without a pause':<58} {moves} moves in {seconds:.1f} s; frames with over 50 ms of script: "
        f"{sum(s > 50 for s in slow)}, most script in one frame {most:.0f} ms   wanted < 50"
    )


def balanced(page: Page, address: str) -> None:
    """The battery dragged in the Balance of the first airframe, step by step, then without a pause."""
    page.goto(address)
    page.get_by_role("link", name="Reed Warden", exact=True).first.click()
    page.get_by_role("navigation", name="Airframe").get_by_role("link", name="Balance").click()
    battery = page.get_by_role("slider", name=re.compile("^Battery"))
    battery.wait_for()
    page.wait_for_load_state("networkidle")
    box = battery.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    spread("battery dragged to balance redrawn", measure(page, [
        partial(page.mouse.move, x - 20 - 2 * (n % 20), y) for n in range(40)
    ]))  # fmt: skip
    without_pause(page, x - 60, y)


def main() -> None:
    script_size()
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        port = s.getsockname()[1]
    address = f"http://127.0.0.1:{port}/"
    web = subprocess.Popen([sys.executable, "-m", "fletcher.server.serving", str(port)], cwd=ROOT)
    try:
        deadline = time.monotonic() + 60
        while web.poll() is None and time.monotonic() < deadline:
            try:
                urllib.request.urlopen(address + "api/session", timeout=5).close()
                break
            except OSError:
                time.sleep(0.05)
        flags = ["--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update",
                 "--disable-sync", *(["--no-sandbox"] if os.geteuid() == 0 else [])]  # fmt: skip
        with sync_playwright() as p:
            browser = p.chromium.launch(executable_path=os.environ["FLETCHER_CHROMIUM"], args=flags)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            entered(page, address)
            page.goto(address)
            page.get_by_role("link", name="Left wing half on the Bench").click()
            page.get_by_text("Breaks first").first.wait_for()
            page.get_by_role("tab", name="Shape").click()
            chord = page.get_by_label("Root chord", exact=True)
            spread("chord typed to verdict redrawn", measure(page, [
                partial(chord.fill, str(v)) for v in range(160, 200)
            ]))  # fmt: skip
            page.get_by_role("tab", name="Loads").click()
            speed = page.get_by_label("Speed", exact=True)
            spread("speed typed to verdict redrawn", measure(page, [
                partial(speed.fill, str(v / 10)) for v in range(120, 160)
            ]))  # fmt: skip
            page.get_by_role("tab", name="Lay-up").click()
            layup = page.get_by_role("list", name="Lay-up", exact=True)
            layup.get_by_role("button", name=re.compile("^Carbon rod")).click()
            grip = page.get_by_role("slider", name="End of this item")
            spread("end of a spar moved by keys to verdict redrawn", measure(page, [
                partial(grip.press, f"Shift+Arrow{way}") for way in ["Left"] * 15 + ["Right"] * 15
            ]))  # fmt: skip
            dragged(page)
            balanced(page, address)
            page.goto(address + "joints")
            page.get_by_role("list", name="Suitable adhesives").wait_for()
            held = page.get_by_label("Must hold", exact=True)
            spread("glue: need typed to ranking redrawn", measure(page, [
                partial(held.fill, f"{v} N") for v in range(21, 51)
            ]))  # fmt: skip
            browser.close()
    finally:
        web.terminate()
        web.wait(20)


if __name__ == "__main__":
    main()
