"""The licence list, THIRD-PARTY.md: what ships with Gray Quill, as it is installed here. Asks no network.

make third-party writes it; make audit only shows it.
"""

import importlib.metadata
import json
import pathlib
import re

ROOT = pathlib.Path(__file__).parents[1]
HEAD = """# Third-party software

Made by `make third-party` from what is installed; `make audit` shows the same. The texts of the licences lie with each
package; those of the fonts lie beside the fonts in the built screens.
"""


def locked(lock: pathlib.Path) -> list[str]:
    """Names of the packages a lock pins for this platform."""
    return re.findall(r"^([A-Za-z0-9._-]+)==", lock.read_text(), re.MULTILINE)


def licence_of(meta: importlib.metadata.PackageMetadata) -> str:
    """The licence expression, or the short name, or the classifier that says it."""
    said = str(meta["License-Expression"] or "")
    if not said:
        classified = [c.split(" :: ")[-1] for c in meta.get_all("Classifier") or [] if c.startswith("License ::")]
        short = str(meta["License"] or "").strip()
        said = ", ".join(classified) or (short if len(short) < 60 else short.splitlines()[0][:60])
    return said or "see its licence file"


def python_rows() -> list[tuple[str, str, str]]:
    rows = []
    for name in locked(ROOT / "requirements.lock"):
        try:
            meta = importlib.metadata.metadata(name)
        except importlib.metadata.PackageNotFoundError:
            continue  # for another platform
        rows.append((meta["Name"], meta["Version"], licence_of(meta)))
    return sorted(rows, key=lambda r: r[0].lower())


def web_rows() -> list[tuple[str, str, str]]:
    """What the screens are built with and carry; development tools do not ship."""
    packages = json.loads((ROOT / "web" / "package-lock.json").read_text())["packages"]
    rows = set()
    for place, entry in packages.items():
        if place and not entry.get("dev") and not entry.get("optional") and not entry.get("devOptional"):
            rows.add(
                (place.rsplit("node_modules/", 1)[-1], entry["version"], entry.get("license", "see its licence file"))
            )
    return sorted(rows)


def table(title: str, rows: list[tuple[str, str, str]]) -> str:
    lines = [f"\n## {title}\n", "| package | version | licence |", "|---|---|---|"]
    return "\n".join([*lines, *(f"| {' | '.join(row)} |" for row in rows)])


if __name__ == "__main__":
    print(HEAD + table("Python", python_rows()) + "\n" + table("In the screens", web_rows()))
