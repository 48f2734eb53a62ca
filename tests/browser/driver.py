"""A headless Chromium with a real pen, and a server over a throwaway database."""

import contextlib
import json
import pathlib
import shutil
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator
from typing import Any

from selenium import webdriver
from selenium.webdriver.chrome.service import Service

FLAGS = (
    "headless=new",
    "no-sandbox",
    "disable-gpu",
    "disable-background-networking",
    "disable-component-update",
    "disable-sync",
    "no-first-run",
    "force-color-profile=srgb",
    "hide-scrollbars",
)


@contextlib.contextmanager
def browser(width: int = 1280, height: int = 800) -> Iterator[Any]:
    """A driver whose downloads go to `driver.downloads`."""
    profile = tempfile.mkdtemp()
    options = webdriver.ChromeOptions()
    options.binary_location = shutil.which("chromium") or ""
    for flag in (*FLAGS, f"user-data-dir={profile}", f"window-size={width},{height}"):
        options.add_argument("--" + flag)
    downloads = pathlib.Path(profile) / "downloads"
    downloads.mkdir()
    options.add_experimental_option(
        "prefs",
        {"download.default_directory": str(downloads), "profile.default_content_setting_values.automatic_downloads": 1},
    )
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = webdriver.Chrome(service=Service(shutil.which("chromedriver")), options=options)
    driver.downloads = downloads
    driver.set_script_timeout(60)
    try:
        resize(driver, width, height)
        yield driver
    finally:
        driver.quit()
        shutil.rmtree(profile, ignore_errors=True)


def resize(driver: Any, width: int, height: int) -> None:
    driver.execute_cdp_cmd(
        "Emulation.setDeviceMetricsOverride",
        {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False},
    )


class Server:
    """`gray-quill serve` or `demo` as its own process, so that it can be killed."""

    def __init__(self, folder: pathlib.Path, command: str = "demo") -> None:
        self.folder, self.command, self.port = folder, command, free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self.process: subprocess.Popen[bytes] | None = None

    def start(self) -> "Server":
        self.process = subprocess.Popen(
            [
                sys.executable,
                "-m",
                "gray_quill.cli",
                self.command,
                "--port",
                str(self.port),
                "--data",
                str(self.folder),
            ],
            stdout=subprocess.DEVNULL,
        )
        for _ in range(600):
            with contextlib.suppress(OSError):
                urllib.request.urlopen(self.url + "/api/desk", timeout=2).read()
                return self
            time.sleep(0.1)
        raise RuntimeError("the server did not start")

    def kill(self) -> None:
        if self.process:
            self.process.kill()
            self.process.wait()
            self.process = None


@contextlib.contextmanager
def served(command: str = "demo") -> Iterator[Server]:
    folder = tempfile.mkdtemp()
    server = Server(pathlib.Path(folder), command).start()
    try:
        yield server
    finally:
        server.kill()
        shutil.rmtree(folder, ignore_errors=True)


def free_port() -> int:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


def wait_for(driver: Any, script: str, what: str, seconds: float = 15) -> Any:
    """Wait until a JavaScript expression is true; returns its value."""
    until = time.time() + seconds
    while time.time() < until:
        value = driver.execute_script("return " + script)
        if value:
            return value
        time.sleep(0.05)
    raise AssertionError(f"waited {seconds} s for {what}")


def pen(driver: Any, kind: str, x: float, y: float, force: float = 0.5, tilt: tuple[int, int] = (20, 10)) -> None:
    """One real pen event through the DevTools: kind is mousePressed, mouseMoved or mouseReleased."""
    driver.execute_cdp_cmd(
        "Input.dispatchMouseEvent",
        {
            "type": kind,
            "x": x,
            "y": y,
            "button": "left",
            "buttons": 0 if kind == "mouseReleased" else 1,
            "clickCount": 1,
            "pointerType": "pen",
            "force": force,
            "tiltX": tilt[0],
            "tiltY": tilt[1],
        },
    )


def write_stroke(driver: Any, points: list[tuple[float, float, float]]) -> None:
    """A pen stroke through (x, y, force) in CSS pixels."""
    (x, y, force), *rest = points
    pen(driver, "mousePressed", x, y, force)
    for x, y, force in rest:
        pen(driver, "mouseMoved", x, y, force)
    pen(driver, "mouseReleased", x, y, 0)


def choose(driver: Any, label: str, option: str) -> None:
    """Open the select with this label and take an option, by what it says."""
    opener = (
        "[...document.querySelectorAll('.el-select')].find(s => "
        f"s.querySelector('[aria-label={json.dumps(label)}]'))?.querySelector('.el-select__wrapper')"
    )
    wait_for(driver, opener, label)
    driver.execute_script(f"{opener}.click()")
    item = (
        "[...document.querySelectorAll('.el-select-dropdown__item')].find(i => i.offsetParent && "
        f"i.textContent.trim().startsWith({json.dumps(option)}))"
    )
    wait_for(driver, item, option)
    driver.execute_script(f"{item}.click()")


def take_radio(driver: Any, words: str) -> None:
    """Choose among radio buttons by what one says."""
    item = (
        "[...document.querySelectorAll('.el-radio-button__inner')].find(b => b.textContent.trim() === "
        f"{json.dumps(words)})"
    )
    wait_for(driver, item, words)
    driver.execute_script(f"{item}.click()")
