"""Files that become sheets over the API: SVG and tables as ink, layered pictures under it, and back out again."""

import io

import numpy as np
from PIL import Image

from gray_quill.formats.png import read_png
from tests.formats.test_coming_in import Tables, ora, png, svg
from tests.web.api_case import ApiCase


class BringIn(ApiCase):
    def sent(self, form: str, data: bytes, query: str = "", status: int = 201) -> dict:  # type: ignore[type-arg]
        reply = self.client.post(f"/api/sheets/trap-log/{form}?name=Moths{query}", data=data)
        self.assertEqual(reply.status_code, status, reply.get_json())
        return dict(reply.get_json())

    def page(self, sheet: str, scale: float = 4) -> np.ndarray:
        return read_png(self.client.get(f"/api/sheets/{sheet}/page.png?scale={scale}").data).astype(int)

    def test_a_drawing_becomes_ink_of_the_sheets_pen(self) -> None:
        came = self.sent("svg", svg('<path d="M20 20h100"/><text>fen</text>'))
        self.assertEqual((came["sheet"]["name"], came["sheet"]["strokes"]), ("Moths", 1))
        self.assertEqual(came["passed_over"], ["1 <text>"])
        rows, columns = np.nonzero(self.page(came["sheet"]["id"]).sum(axis=2) < 450)
        self.assertAlmostEqual(float(columns.min()) / 4, 10, delta=1)
        self.assertAlmostEqual(float(columns.max()) / 4, 60, delta=1)
        self.assertAlmostEqual(float(np.median(rows)) / 4, 10, delta=0.5)

    def test_a_table_comes_as_it_was_said_to_mean(self) -> None:
        data = Tables.HERE.encode()
        look = self.client.post("/api/csv/look", data=data, content_type="text/csv").get_json()
        self.assertEqual(look["roles"]["x"], "x_mm")
        came = self.sent("csv", data, "&x=x_mm&y=y_mm&t=t_ms&force=force&stroke=stroke")
        self.assertEqual((came["sheet"]["strokes"], came["passed_over"]), (2, ["column 'note'"]))
        self.assertEqual(self.strokes(came["sheet"]["id"])[1].trace.x_mm.tolist(), [30, 31])
        self.assertIn("no column", self.sent("csv", data, "&x=up&y=y_mm", 400)["error"]["message"])

    def test_a_layered_picture_lies_under_the_ink_as_it_looked(self) -> None:
        layers = '<layer name="top" src="data/b.png" x="30" y="40" opacity="0.5"/><layer name="low" src="data/a.png"/>'
        came = self.sent("openraster", ora(layers, {"data/a.png": png((200, 100)), "data/b.png": self.blue()}))
        sheet = came["sheet"]
        self.assertEqual((sheet["paper"]["width_mm"], sheet["paper"]["height_mm"]), (30, 30), "a sheet is no smaller")
        shown = self.page(sheet["id"], 10)
        self.assertEqual(shown[20, 20].tolist(), [200, 0, 0])
        self.assertEqual(shown[50, 50].tolist(), [100, 0, 128])
        self.assertEqual(shown[200, 100].tolist(), [255, 255, 255])

    def test_what_went_out_as_openraster_comes_back_as_it_looked(self) -> None:
        data = self.client.get("/api/sheets/first-count/file?form=ora&dpi=127").data
        came = self.sent("openraster", data)
        apart = np.abs(self.page(came["sheet"]["id"], 5) - self.page("first-count", 5))
        self.assertLess(apart.mean(), 1.0)

    @staticmethod
    def blue() -> bytes:
        out = io.BytesIO()
        Image.new("RGBA", (40, 40), (0, 0, 255, 255)).save(out, "PNG")
        return out.getvalue()
