"""Drawings in files: DXF audited and read back, SVG and PDF looked through."""

import re
from pathlib import Path
from xml.etree import ElementTree

import ezdxf
import pytest
from pypdf import PdfReader

from korbent.core.model import Project
from korbent.core.model.sheets import SheetChoice
from korbent.demo import DEMOS
from korbent.drawing.plan import outline
from korbent.drawing.primitives import Dimension
from korbent.files.office import OfficeError, keep_logo, keep_title_block, logo_file, title_block
from korbent.sheets.catalogue import set_named
from korbent.sheets.composition import Sheet
from korbent.sheets.drawings import MAKERS, drawings
from korbent.sheets.layers import GEOMETRY, LAYERS, layer_name
from korbent.sheets.logo import svg_shapes
from korbent.sheets.to_dxf import FOOT, keyed, outlines, write_dxf
from korbent.sheets.to_pdf import write_sheets_pdf
from korbent.sheets.to_svg import sheet_svg
from tests.sheets.looking import written
from tests.sheets.pdf_text import texts_of
from tests.sheets.shapes import shapes_of

ISO = re.compile(r"S-[A-Z-]{6}[ETDH]-")


def made(project: Project, *keys: str) -> tuple[Sheet, ...]:
    return drawings(project, set_named(project, ""), [SheetChoice(key=k) for k in keys or MAKERS])


FIRST = ("lindmere", "redstem")


@pytest.fixture(
    scope="module",
    params=[*FIRST, *(pytest.param(name, marks=pytest.mark.long) for name in DEMOS if name not in FIRST)],
)
def file(request: pytest.FixtureRequest, tmp_path_factory: pytest.TempPathFactory) -> tuple[Project, Path]:
    project = DEMOS[request.param]()
    path = tmp_path_factory.mktemp("dxf") / "d.dxf"
    write_dxf(made(project), path, project.units == "us")
    return project, path


def test_the_audit_finds_nothing(file: tuple[Project, Path]) -> None:
    audit = ezdxf.readfile(file[1]).audit()
    assert not audit.errors
    assert not audit.fixes


@pytest.mark.long
def test_outlines_read_back_are_those_of_the_model(file: tuple[Project, Path]) -> None:
    project, path = file
    each = FOOT if project.units == "us" else 1.0
    found = outlines(path)
    assert found.keys() == {p.name for p in project.pads}
    for pad in project.pads:
        ring = outline(pad, project.load_point(pad.load_point))
        assert len(ring) == len(found[pad.name])
        for (x, y), (a, b) in zip(ring, found[pad.name]):
            assert abs(a * each - x) < 1e-3
            assert abs(b * each - y) < 1e-3


@pytest.mark.long
def test_the_unit_is_said(file: tuple[Project, Path]) -> None:
    project, path = file
    assert ezdxf.readfile(path).header["$INSUNITS"] == (2 if project.units == "us" else 6)


@pytest.mark.long
def test_all_lies_on_layers_of_the_table(file: tuple[Project, Path]) -> None:
    document = ezdxf.readfile(file[1])
    names = {e.dxf.layer for e in document.modelspace()}
    assert names
    assert all(ISO.fullmatch(n) for n in names)
    known = {layer.element for layer in LAYERS.values()}
    assert {n[2:8] for n in names} <= known
    weights = {layer.element: layer.weight for layer in LAYERS.values()}
    for layer in document.layers:
        if ISO.fullmatch(layer.dxf.name):
            assert layer.dxf.lineweight == weights[layer.dxf.name[2:8]]


@pytest.mark.long
def test_each_sheet_is_a_layout_of_its_size_with_viewports_at_its_scale(file: tuple[Project, Path]) -> None:
    project, path = file
    document = ezdxf.readfile(path)
    each = 1.0 / FOOT if project.units == "us" else 1.0
    sheets = made(project)
    layouts = [n for n in document.layout_names_in_taborder() if n != "Model"]
    assert len(layouts) == len(sheets)
    for name, sheet in zip(layouts, sheets):
        layout = document.layouts.get(name)
        assert layout.page_setup  # a layout of paper
        assert layout.dxf.paper_width == pytest.approx(sheet.width)
        assert layout.dxf.paper_height == pytest.approx(sheet.height)
        ports = [v for v in layout.query("VIEWPORT") if v.dxf.status > 1 or v.dxf.id > 1]
        scales = sorted(1000 * v.dxf.view_height / each / v.dxf.height for v in ports)
        assert scales == pytest.approx(sorted(v.scale for v in sheet.views if v.scale > 1.0))


@pytest.mark.long
def test_dimensions_are_dimensions_that_measure_what_they_say(file: tuple[Project, Path]) -> None:
    project, path = file
    found = ezdxf.readfile(path).modelspace().query("DIMENSION")
    drawn = [s for sheet in made(project) for s in shapes_of(sheet) if isinstance(s, Dimension)]
    assert len(found) == len(drawn)
    if project.units == "metric":
        for one in found:
            said = one.dxf.text.strip().lstrip("ø ").replace(" ", "")
            if said.isdigit() and int(said) > 10:
                assert 1000 * one.get_measurement() == pytest.approx(int(said), abs=0.51)


@pytest.mark.long
def test_columns_and_bubbles_are_blocks_with_their_names(file: tuple[Project, Path]) -> None:
    project, path = file
    inserts = ezdxf.readfile(path).modelspace().query("INSERT")
    square = {p.name for p in project.actions.load_points if not p.is_round}
    assert {keyed(i).partition(":")[2] for i in inserts if keyed(i).startswith("point:")} == square
    size = 12 / FOOT if project.units == "us" else 1000
    sizes = {f"COLUMN {round(size * p.size_x)} x {round(size * p.size_y)}" for p in project.actions.load_points}
    for insert in (i for i in inserts if keyed(i).startswith("point:")):
        if project.units != "us":  # faces of columns seen askew are no columns
            assert insert.dxf.name in sizes
        assert insert.get_attrib_text("NAME") == keyed(insert).partition(":")[2]
    assert {i.get_attrib_text("LABEL") for i in inserts if i.dxf.name == "GRID BUBBLE"} >= {"A"}


@pytest.mark.long
def test_every_text_of_the_sheets_is_in_the_file(file: tuple[Project, Path]) -> None:
    project, path = file
    document = ezdxf.readfile(path)
    spaces = [
        document.modelspace(),
        *(document.layouts.get(n) for n in document.layouts.names() if n != "Model"),
    ]
    said = {e.dxf.text for s in spaces for e in s.query("TEXT")}
    said |= {e.dxf.text for e in document.modelspace().query("DIMENSION")}
    said |= {a.dxf.text for e in document.modelspace().query("INSERT") for a in e.attribs}
    wanted = {t.replace("′", "'") for sheet in made(project) for t, _ in written(sheet) if "…" not in t}
    missing = {w for w in wanted if w not in said and not any(s.endswith("…") and w.startswith(s[:-1]) for s in said)}
    assert not missing


@pytest.mark.long
def test_a_plan_in_parts_stands_once_in_the_model(demo: Project, tmp_path: Path) -> None:
    sheets = drawings(demo, set_named(demo, ""), [SheetChoice(key="plan", paper="A3", scale=50.0)])
    assert len(sheets) > 1
    write_dxf(sheets, tmp_path / "d.dxf")
    document = ezdxf.readfile(tmp_path / "d.dxf")
    rings = [e for e in document.modelspace().query("LWPOLYLINE") if keyed(e).startswith("pad:")]
    assert len(rings) == len(demo.pads)
    ports = [
        v
        for n in document.layouts.names()
        if n != "Model"
        for v in document.layouts.get(n).query("VIEWPORT")
        if v.dxf.id > 1
    ]
    assert len(ports) == len(sheets)
    assert not document.audit().errors


def test_an_office_names_its_layers(demo: Project, tmp_path: Path) -> None:
    keep_title_block({"office": "Ardle and Brook", "layer.foundations": "AB_FOUNDATION"})
    assert title_block()["office"] == "Ardle and Brook"
    write_dxf(made(demo, "plan"), tmp_path / "d.dxf")
    names = {e.dxf.layer for e in ezdxf.readfile(tmp_path / "d.dxf").modelspace()}
    assert {"AB_FOUNDATION", "AB_FOUNDATION-T"} <= names
    assert not any(n.startswith("S-FOUND-") for n in names)
    assert layer_name("columns", GEOMETRY, title_block()) == "S-COLUMNE-"
    assert "Ardle and Brook" in [t for t, _ in written(made(demo, "plan")[0])]


def test_the_same_drawing_gives_the_same_pdf(demo: Project, tmp_path: Path) -> None:
    for name in ("a", "b"):
        write_sheets_pdf(made(demo, "plan", "details"), tmp_path / f"{name}.pdf")
    assert (tmp_path / "a.pdf").read_bytes() == (tmp_path / "b.pdf").read_bytes()


@pytest.mark.long
def test_pdf_pages_have_their_size_bookmarks_and_text(demo: Project, tmp_path: Path) -> None:
    sheets = made(demo)
    write_sheets_pdf(sheets, tmp_path / "d.pdf")
    reader = PdfReader(tmp_path / "d.pdf")
    assert len(reader.pages) == len(sheets) == len(reader.outline)
    texts = texts_of(tmp_path / "d.pdf")
    for page, sheet, text in zip(reader.pages, sheets, texts):
        assert float(page.mediabox.width) == pytest.approx(sheet.width * 72 / 25.4, abs=0.01)
        assert float(page.mediabox.height) == pytest.approx(sheet.height * 72 / 25.4, abs=0.01)
        assert sheet.title in text
    plan = texts[0]
    for pad in demo.pads:
        assert pad.name in plan


def test_svg_is_as_large_as_the_paper_and_holds_its_texts(demo: Project) -> None:
    sheet = made(demo, "plan")[0]
    root = ElementTree.fromstring(sheet_svg(sheet).encode())
    assert root.get("width") == f"{sheet.width:g}mm"
    said = {e.text for e in root.iter("{http://www.w3.org/2000/svg}text")}
    assert {"Foundation plan", "8 100", "Quay wall"} <= said


SVG = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><g fill="#a11f3f"><rect x="0" y="0" width="20" height="20"/><path d="M5 5 H15 V15 H5 Z"/></g><circle cx="30" cy="10" r="10" style="fill:#0b6a6c"/></svg>'


def test_a_logo_in_svg_becomes_shapes(tmp_path: Path) -> None:
    path = tmp_path / "l.svg"
    path.write_text(SVG)
    square, hole, disc = svg_shapes(path, (0.0, 0.0, 40.0, 40.0))
    assert (square.fill, disc.fill, hole.fill) == ("#a11f3f", "#0b6a6c", "paper")
    assert max(x for x, _ in disc.points) == pytest.approx(40.0, abs=0.2)
    assert max(y for _, y in square.points) == pytest.approx(40.0)
    assert min(y for _, y in square.points) == pytest.approx(20.0)
    path.write_text("<svg")
    assert svg_shapes(path, (0.0, 0.0, 1.0, 1.0)) == ()


@pytest.mark.long
def test_a_logo_is_kept_for_all_projects(demo: Project, tmp_path: Path) -> None:
    path = tmp_path / "l.svg"
    path.write_text(SVG)
    keep_logo(path)
    assert logo_file() is not None
    fills = {getattr(s, "fill", None) for s in shapes_of(made(demo, "plan")[0])}
    assert {"#a11f3f", "#0b6a6c"} <= fills
    png = tmp_path / "l.png"
    from PIL import Image

    Image.new("RGB", (40, 20), "#a11f3f").save(png)
    keep_logo(png)
    write_sheets_pdf(made(demo, "plan"), tmp_path / "p.pdf")
    assert len(PdfReader(tmp_path / "p.pdf").pages[0].images) == 1
    assert "data:image/png" in sheet_svg(made(demo, "plan")[0])
    # a DXF file holds no picture: it stands beside, at its place in the title block, not distorted
    sheets = made(demo, "plan")
    paths = write_dxf(sheets, tmp_path / "d.dxf")
    assert [p.name for p in paths] == ["d.dxf", "d-logo.png"]
    assert paths[1].read_bytes() == png.read_bytes()
    document = ezdxf.readfile(paths[0])
    assert not document.audit().errors
    (image,) = document.layout(document.layouts.names_in_taborder()[1]).query("IMAGE")
    assert image.image_def.dxf.filename == "d-logo.png"
    wide, high = (v * n for v, n in zip((image.dxf.u_pixel.magnitude, image.dxf.v_pixel.magnitude), (40, 20)))
    assert wide == pytest.approx(2 * high)
    box = next(s for s in sheets[0].frame.shapes if getattr(s, "key", "") == "logo")
    (x0, y0), (x1, _), (_, y1), _ = ((1000 * x, 1000 * y) for x, y in box.points)
    assert x0 - 1e-6 <= image.dxf.insert.x
    assert image.dxf.insert.x + wide <= x1 + 1e-6
    assert y0 - 1e-6 <= image.dxf.insert.y <= image.dxf.insert.y + high <= y1 + 1e-6
    (tmp_path / "no.png").write_text("no picture")
    with pytest.raises(OfficeError, match=r"no\.png is no logo"):
        keep_logo(tmp_path / "no.png")
    keep_logo(None)
    assert logo_file() is None
