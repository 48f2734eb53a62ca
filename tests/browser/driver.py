"""A headless Chromium with a real pen, and servers over throwaway databases.

One Chromium serves all tests. Servers take a port after each other, so that it has their screens compiled already; what
pages of the one before kept for themselves is cleared. The demo's database is built once and copied for each server.
"""

import contextlib
import functools
import json
import pathlib
import shutil
import socket
import tempfile
import time
import urllib.request
from collections.abc import Callable, Iterator
from multiprocessing.util import Finalize
from typing import Any

from selenium import webdriver
from selenium.common.exceptions import JavascriptException, WebDriverException
from selenium.webdriver.chrome.service import Service

from gray_quill.demo.build import build_demo
from tests.zygote import Child, Zygote

WAITING = (pathlib.Path(__file__).parent / "waiting.js").read_text()
KEPT_BY_PAGES = "cookies,local_storage,indexeddb,websql,service_workers,cache_storage"
STARTED: dict[str, Any] = {}  # every Chromium of this process, by what it is for
LET_GO: list[int] = []  # ports of servers that are gone
# what the function of a page comes to within a minute, as JSON; an element only says that it is there
ANSWER = """
(() => {
  let timer
  const late = new Promise((_, wrong) => {
    timer = setTimeout(() => wrong(new Error('no answer within 60 s')), 60000)
  })
  const asked = (async function () {
    %s
  }).apply(null, %s)
  const said = (found) => JSON.stringify(found ?? null, (_, v) => (v instanceof Node ? true : v))
  return Promise.race([asked, late]).finally(() => clearTimeout(timer)).then(said)
})()
"""
# the page itself looks again and again: asking it from here each time costs several times the work
LOOKS_S = 5  # at most, before it is asked again
LOOK = """
const until = performance.now() + Math.min(arguments[0], 5000)
return new Promise((done, wrong) => {
  const look = () => {
    let found = null
    try {
      found = (%s)
    } catch (e) {
      return wrong(e)
    }
    if (found || performance.now() > until) done(found || null)
    else setTimeout(look, 25)
  }
  look()
})
"""
GONE = ("navigated or closed", "context was destroyed", "Promise was collected", "Cannot find context")
FLAGS = (
    "headless=new",
    "no-sandbox",
    "disable-gpu",
    "disable-back-forward-cache",  # touches went to the page kept there, and not to the one that is seen
    "disable-background-networking",
    "disable-component-update",
    "disable-sync",
    "no-first-run",
    "force-color-profile=srgb",
    "hide-scrollbars",
)


def at_end(what: Callable[..., Any], *arguments: Any, **more: Any) -> None:
    """Done when this process ends, a forked one too, which knows nothing of what its parent has to do."""
    Finalize(None, what, arguments, more, exitpriority=1)


def chromium() -> Any:
    """The Chromium all tests share, started when first asked for; `driver.downloads` is where its downloads go."""
    return _of("all")


def another() -> Any:
    """A second Chromium that knows nothing of the first, for tests with somebody else's screen."""
    return _of("somebody else")


def _of(whom: str) -> Any:
    """One whose tab crashed has had its day: the next test must not fall with it."""
    if whom not in STARTED or not _lives(STARTED[whom]):
        STARTED[whom] = _started()
    return STARTED[whom]


def _lives(driver: Any) -> bool:
    try:
        return bool(driver.execute_cdp_cmd("Runtime.evaluate", {"expression": "1"}))
    except WebDriverException:
        return False


def _started() -> Any:
    profile = tempfile.mkdtemp()
    options = webdriver.ChromeOptions()
    options.binary_location = shutil.which("chromium") or ""
    for flag in (*FLAGS, f"user-data-dir={profile}", "window-size=1280,800"):
        options.add_argument("--" + flag)
    downloads = pathlib.Path(profile) / "downloads"
    downloads.mkdir()
    options.add_experimental_option(
        "prefs",
        {"download.default_directory": str(downloads), "profile.default_content_setting_values.automatic_downloads": 1},
    )
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver: Any = webdriver.Chrome(service=Service(shutil.which("chromedriver")), options=options)
    driver.downloads = downloads
    driver.set_script_timeout(60)
    count_timers(driver)
    at_end(shutil.rmtree, profile, ignore_errors=True)
    at_end(driver.quit)
    return driver


def count_timers(driver: Any) -> None:
    """Pages of this window tell from now on how many of their timers are about to act; Desk.rests waits for these."""
    driver.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", {"source": WAITING})


@contextlib.contextmanager
def browser(width: int = 1280, height: int = 800) -> Iterator[Any]:
    """The shared Chromium at a size, on a blank page, with its log and its downloads empty."""
    driver = chromium()
    driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": []})
    driver.execute_cdp_cmd("Emulation.setTouchEmulationEnabled", {"enabled": False})
    driver.get_log("browser")
    for file in driver.downloads.iterdir():
        file.unlink()
    resize(driver, width, height)
    try:
        yield driver
    finally:
        if _lives(driver):
            driver.get("about:blank")


def resize(driver: Any, width: int, height: int) -> None:
    driver.execute_cdp_cmd(
        "Emulation.setDeviceMetricsOverride",
        {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False},
    )


@functools.cache
def demo_folder() -> pathlib.Path:
    """The demo's data, built once; copy it, don't use it."""
    folder = pathlib.Path(tempfile.mkdtemp())
    build_demo(folder)
    at_end(shutil.rmtree, folder, ignore_errors=True)
    return folder


@functools.cache
def answers_folder() -> pathlib.Path:
    """Where servers share what they remember."""
    folder = pathlib.Path(tempfile.mkdtemp())
    at_end(shutil.rmtree, folder, ignore_errors=True)
    return folder


@functools.cache
def zygote() -> Zygote:
    """The process all servers of these tests are forked from."""
    place = pathlib.Path(tempfile.mkdtemp())
    made = Zygote(place, answers_folder())
    at_end(shutil.rmtree, place, ignore_errors=True)
    at_end(made.close)
    return made


class Server:
    """`gray-quill serve`, or another command that serves, as its own process, so that it can be killed."""

    def __init__(self, folder: pathlib.Path, command: str = "serve") -> None:
        self.folder, self.command, self.port = folder, command, port_of_ones_own()
        self.url = f"http://127.0.0.1:{self.port}"
        self.process: Child | None = None

    def words(self) -> str:
        """What it wrote so far."""
        return self.process.words() if self.process else ""

    def start(self) -> "Server":
        self.process = zygote().start(self.command, "--port", str(self.port), "--data", str(self.folder))
        until = time.monotonic() + 60
        while time.monotonic() < until and self.process.alive():
            with contextlib.suppress(OSError):
                urllib.request.urlopen(self.url + "/api/desk", timeout=5).read()
                return self
            time.sleep(0.05)
        raise RuntimeError(f"the server did not start: {self.words()[-500:]}")

    def kill(self) -> None:
        if self.process:
            self.process.kill()
            self.process = None


@contextlib.contextmanager
def served(demo: bool = True) -> Iterator[Server]:
    """A server over the demo's data, or over an empty folder."""
    folder = pathlib.Path(tempfile.mkdtemp())
    if demo:
        shutil.copytree(demo_folder(), folder, dirs_exist_ok=True)
    server = Server(folder).start()
    try:
        yield server
    finally:
        server.kill()
        LET_GO.append(server.port)
        shutil.rmtree(folder, ignore_errors=True)


def port_of_ones_own() -> int:
    """A port whose pages have kept nothing: one that a server let go of, cleared, or a new one."""
    if not LET_GO:
        return free_port()
    port = LET_GO.pop()
    for driver in filter(_lives, STARTED.values()):
        origin = {"origin": f"http://127.0.0.1:{port}", "storageTypes": KEPT_BY_PAGES}
        driver.execute_cdp_cmd("Storage.clearDataForOrigin", origin)
    return port


def free_port() -> int:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


def evaluate(driver: Any, body: str, *arguments: Any) -> Any:
    """What the body of a JavaScript function returns, or promises, in the page. Through the DevTools, at less than half
    the cost of `execute_script`, of which there are ten thousand in a run of the tests.
    """
    asked = {"expression": ANSWER % (body, json.dumps(arguments)), "awaitPromise": True, "userGesture": True}
    answer = driver.execute_cdp_cmd("Runtime.evaluate", asked)
    if wrong := answer.get("exceptionDetails"):
        raise JavascriptException(wrong.get("exception", {}).get("description") or wrong["text"])
    return json.loads(answer["result"]["value"])


def wait_for(driver: Any, script: str, what: str, seconds: float = 30) -> Any:
    """Wait until a JavaScript expression is true; returns its value. On a busy machine states come later, never not."""
    left = seconds
    while left > 0:
        began = time.monotonic()
        try:
            if value := evaluate(driver, LOOK % script, 1000 * left):
                return value
        except JavascriptException:
            raise
        except WebDriverException as e:  # the page went while it looked: the next one is asked
            if not any(words in str(e) for words in GONE):
                raise
        left -= min(time.monotonic() - began, LOOKS_S)  # a machine that stood still meanwhile had no chance
    raise AssertionError(f"waited {seconds} s for {what}")
