"""The calculation: short enough, every number as computed, links that lead somewhere, the same words in PDF, DOCX and
HTML."""

import re
from functools import cache
from html.parser import HTMLParser
from pathlib import Path

import pytest
from docx import Document
from pypdf import PdfReader
from pypdf.generic import Destination

from korbent.core.checks import State
from korbent.core.evaluate import Results, evaluate
from korbent.core.explain.working import Working, working
from korbent.core.model import Project, edited, noted
from korbent.core.model.sheets import Revision, SheetChoice, SheetSet
from korbent.core.units import show
from korbent.demo import DEMOS
from korbent.sheets.calculation import CHAPTERS, calculation, of_base
from korbent.sheets.calculation.bases import worst_member
from korbent.sheets.calculation.blocks import Calculation, Cell, Figure, Heading, Para, Step, Table, entry
from korbent.sheets.calculation.workings import chosen, governing_steps, working_blocks
from korbent.sheets.calculation_docx import write_docx
from korbent.sheets.calculation_html import calculation_html
from korbent.sheets.calculation_pdf import calculation_pdf
from korbent.sheets.catalogue import KINDS, completed, set_named, ticked, usual_sets, with_set
from korbent.sheets.types import kinds_built
from korbent.verification.pad import one_pad
from tests.sheets.pdf_text import texts_of

CHAPTERS_SET = SheetSet(
    name="all", sheets=tuple(SheetChoice(key=k) for k in CHAPTERS), workings="governing", by_type=False
)


@cache
def of(name: str) -> tuple[Project, Results]:
    project = DEMOS[name]()
    return project, evaluate(project)


def made(name: str, workings: str = "none", by_type: bool = True) -> tuple[Project, Results, Calculation]:
    project, results = of(name)
    own = usual_sets(project)[0].replaced(workings=workings, by_type=by_type)
    return project, results, calculation(project, results, own)


def pdf(own: Calculation, path: Path) -> PdfReader:
    data, pages = calculation_pdf(own)
    path.write_bytes(data)
    reader = PdfReader(path)
    assert len(reader.pages) == pages
    return reader


def words(text: str) -> str:
    return " ".join(text.split())


# ---------------------------------------------------------------- length and order


@pytest.mark.long
def test_fourteen_pads_in_short_take_less_than_25_pages(demo: Project, tmp_path: Path) -> None:
    assert len(demo.pads) == 14
    own = calculation(demo, evaluate(demo), usual_sets(demo)[0].replaced(workings="none"))
    assert len(pdf(own, tmp_path / "c.pdf").pages) < 25


def test_chapters_come_as_the_set_orders_them(demo: Project) -> None:
    results = evaluate(demo)
    sheets = tuple(SheetChoice(key=k) for k in ("summary", "basis", "record"))
    own = calculation(demo, results, SheetSet(name="s", sheets=sheets))
    assert [b.anchor for b in own.blocks if isinstance(b, Heading) and b.level == 1] == ["summary", "basis", "record"]
    only = calculation(demo, results, SheetSet(name="s", sheets=sheets), ("basis",))
    assert [b.anchor for b in only.blocks if isinstance(b, Heading) and b.level == 1] == ["basis"]


@pytest.mark.long
@pytest.mark.parametrize("make", [Project, one_pad])
def test_small_projects_have_one(make: object, tmp_path: Path) -> None:
    project = make()  # type: ignore[operator]
    own = calculation(project, evaluate(project), CHAPTERS_SET)
    assert len(pdf(own, tmp_path / "c.pdf").pages) >= 2


# ---------------------------------------------------------------- every number as computed


@pytest.mark.long
@pytest.mark.parametrize("name", list(DEMOS))
def test_the_pages_of_bases_say_what_was_computed(name: str) -> None:
    """Ratio, demand and capacity of every check of every base, as they are shown everywhere; no ratio that was not
    computed."""
    project, results = of(name)
    own = calculation(project, results, CHAPTERS_SET, ("bases",))
    at, tables = "", {}
    for block in own.blocks:
        if isinstance(block, Heading) and block.anchor.startswith("base-"):
            at = block.anchor.removeprefix("base-")
        if isinstance(block, Table) and block.head[0] == "Check":
            tables[at] = block
    assert tables.keys() == {p.name for p in project.pads}
    for base, table in tables.items():
        checks = [c for c in results.pad(base).checks if c.state is not State.NOT_APPLICABLE]
        rows = {entry(r[0]): [entry(e) for e in r] for r in table.rows}
        assert rows.keys() == {c.check.title for c in checks}
        for check in checks:
            row = rows[check.check.title]
            assert row[1] == ("–" if check.ratio is None else f"{check.ratio:.2f}")
            assert row[5:7] == [check.combination, check.state.value]
            if check.required_factor is not None and check.factor is not None:
                assert row[2:4] == [f"{check.factor:.2f}", f"≥ {check.required_factor:.2f}"]
            elif check.demand is not None:
                assert row[2] == show(check.demand, check.check.unit, project.showing)


@pytest.mark.long
@pytest.mark.parametrize("name", list(DEMOS))
def test_the_summary_has_the_worst_of_each_group(name: str) -> None:
    project, results, own = made(name)
    table = next(b for b in own.blocks if isinstance(b, Table) and b.head[:1] == ("Base",) and "State" in b.head)
    groups = table.head[3:-2]
    for row in table.rows:
        base = entry(row[0])
        if base not in {p.name for p in project.pads}:
            continue
        for group, cell in zip(groups, row[3:-2]):
            worst = results.pad(base).worst_in(group)
            if worst is not None and worst.ratio is not None:
                assert entry(cell) == f"{worst.ratio:.2f}"
                assert isinstance(cell, Cell)
                assert cell.beyond == (worst.state in (State.FAILS, State.UNSTABLE))


def test_a_type_is_shown_by_its_worst_member_and_names_the_others() -> None:
    project, results, own = made("lindmere")
    pages = {
        b.anchor.removeprefix("base-") for b in own.blocks if isinstance(b, Heading) and b.anchor.startswith("base-")
    }
    kinds = kinds_built(project)
    assert pages == {worst_member(k, results).name for k in kinds}
    others = {
        entry(r[0])
        for b in own.blocks
        if isinstance(b, Table) and b.head[:3] == ("Base", "Under", "Level")
        for r in b.rows
    }
    assert pages | others == {p.name for p in project.pads}
    for kind in kinds:
        first = results.pad(worst_member(kind, results).name).worst
        if first.state in (State.HOLDS, State.WARNS):
            assert all((results.pad(p.name).worst.ratio or 0) <= (first.ratio or 0) + 1e-12 for p in kind.members)


# ---------------------------------------------------------------- workings


def steps(own: Calculation) -> list[Step]:
    return [b for b in own.blocks if isinstance(b, Step)]


def test_lines_of_a_working_read_as_everywhere() -> None:
    project, _ = of("lindmere")
    pad = project.pad("P11")
    check = evaluate(project).pad("P11").check("punching")
    found = working(project, pad, "punching")
    assert isinstance(found, Working)
    blocks = [b for b in working_blocks(project, pad, check, {}) if isinstance(b, Step)]
    lines = found.lines()
    assert len(blocks) == len(lines)
    texts = sorted(b.text.split("   ")[0].strip() for b in blocks)
    assert texts == sorted(
        " = ".join(p for p in (line.symbol, line.formula, line.numbers, f"{line.value} {line.unit}".strip()) if p)
        for line in lines
    )


@pytest.mark.long
@pytest.mark.parametrize("name", list(DEMOS))
def test_numbers_lead_to_the_line_that_has_them(name: str) -> None:
    """A number that links somewhere is the value of the line that it leads to, and that line is printed."""
    _, _, own = made(name, "governing", by_type=True)
    by_anchor = {s.anchor: s for s in steps(own)}
    assert len(by_anchor) == len(steps(own))
    linked = 0
    for step in steps(own):
        for piece in step.pieces:
            if piece.link and piece.link in by_anchor:
                value = next(p.text for p in by_anchor[piece.link].pieces if p.look == "value")
                assert value == piece.text
                linked += 1
            elif piece.link:
                raise AssertionError(f"{piece.link} is not printed")
    assert linked > 100


@pytest.mark.long
def test_forces_are_printed_once_for_a_combination() -> None:
    """Of one base no line of its forces stands twice, and what is not printed again is linked to."""
    project, results = of("lindmere")
    own = of_base(project, results, "P11")
    lines = [
        s.text for s in steps(own) if s.text.startswith(("V_c = ", "W_base = ", "W_soil = ", "V = V_c", "M_y = Σ"))
    ]
    assert len(lines) == len(set(lines)) > 4
    referred = [b for b in own.blocks if isinstance(b, Para) and b.text.startswith("Forces on the base")]
    anchors = {s.anchor for s in steps(own)}
    assert len(referred) > 10
    assert all(p.link in anchors for p in referred)


def test_what_does_not_govern_is_left_out_and_nothing_else() -> None:
    """The ratio follows from what is kept alone: of each least or greatest value that which it is."""
    project, _results = of("lindmere")
    pad = project.pad("P11")
    found = working(project, pad, "resistance-drained")
    assert isinstance(found, Working)
    kept, whole = governing_steps(found), {line.index for line in found.lines()}
    assert kept < whole
    lines = {line.index: line for line in found.lines()}
    assert found.step in kept
    for index in kept:
        step = found.recording.steps[index]
        missing = set(step.inputs.values()) - kept
        if missing:
            assert step.formula.startswith(("min(", "max("))
            values = {name: lines[i].value for name, i in step.inputs.items() if i not in missing}
            assert lines[index].value in values.values()


def test_which_checks_have_their_working() -> None:
    project, results = of("lindmere")
    result = results.pad("P11")
    worst, failing, every = (chosen(result, which) for which in ("governing", "failing", "all"))
    assert {c.check.id for c in worst} <= {c.check.id for c in failing} <= {c.check.id for c in every}
    assert all(c in failing for c in result.checks if c.state is State.FAILS)
    assert len({c.check.group for c in worst}) == len(worst)
    assert calculation(project, results, CHAPTERS_SET.replaced(workings="none"), ("workings",)).blocks == ()


# ---------------------------------------------------------------- PDF


@pytest.fixture(scope="module")
def written(tmp_path_factory: pytest.TempPathFactory) -> Path:
    _, _, own = made("lindmere", "failing")
    path = tmp_path_factory.mktemp("c") / "c.pdf"
    pdf(own, path)
    return path


@pytest.fixture(scope="module")
def reader(written: Path) -> PdfReader:
    return PdfReader(written)


@pytest.fixture(scope="module")
def page_texts(written: Path) -> list[str]:
    return [words(text) for text in texts_of(written)]


def test_contents_name_the_pages(page_texts: list[str]) -> None:
    texts = page_texts
    front = texts[0] + texts[1]
    for title in ("Basis", "Ground", "Actions", "Plan and summary", "Bases", "Workings", "Record"):
        page = re.search(rf"{title} (\d+)", front)
        assert page, title
        assert title in texts[int(page[1]) - 1][:200]


def test_bookmarks_follow_the_headings(reader: PdfReader) -> None:
    flat = [o for o in reader.outline if isinstance(o, Destination)]
    names = [str(o.title) for o in flat]
    assert [n for n in names if n in {k.title for k in KINDS.values()}] == [
        "Basis",
        "Ground",
        "Actions",
        "Plan and summary",
        "Bases",
        "Settlement over time",
        "Workings",
        "Record",
    ]


@pytest.mark.long
def test_every_link_leads_to_the_page_that_it_is_on(reader: PdfReader, page_texts: list[str]) -> None:
    numbers = {page.indirect_reference.idnum: k for k, page in enumerate(reader.pages)}  # type: ignore[union-attr]
    texts = page_texts
    targets = [
        (k, a.get_object()["/Dest"][0].idnum) for k, page in enumerate(reader.pages) for a in page.get("/Annots", [])
    ]
    assert len(targets) > 300
    assert all(to in numbers for _, to in targets)
    # links go to many pages, those of workings backwards or on the same one
    assert len({to for _, to in targets}) > 10
    first = next(k for k, t in enumerate(texts) if "Workings For each base" in t)
    last = next(k for k, t in enumerate(texts) if "Record Accepted with" in t)
    assert all(numbers[to] <= k for k, to in targets if first <= k < last)


def test_bookmarks_lead_to_their_headings(reader: PdfReader, page_texts: list[str]) -> None:
    texts = page_texts
    flat: list[Destination] = []

    def gather(items: list[object]) -> None:
        for item in items:
            gather(item) if isinstance(item, list) else flat.append(item)  # type: ignore[arg-type, func-returns-value]

    gather(list(reader.outline))
    assert len(flat) > 25
    for mark in flat:
        page = reader.get_destination_page_number(mark)
        assert page is not None
        assert words(str(mark.title)) in texts[page], mark.title


@pytest.mark.long
def test_the_same_calculation_gives_the_same_file() -> None:
    _, _, own = made("redstem", "governing")
    assert calculation_pdf(own)[0] == calculation_pdf(own)[0]


def test_revisions_acceptances_and_what_is_not_done_stand_in_the_record(demo: Project, tmp_path: Path) -> None:
    from korbent.core.model import Acceptance

    ratio = evaluate(demo).pad("P11").check("presumed-pressure").ratio or 0
    project = edited(
        demo,
        ("pads", "P11", "accepted"),
        (Acceptance(check="presumed-pressure", reason="edge of the ramp, agreed on site", ratio=round(ratio, 3)),),
    )
    project = project.replaced(revisions=(Revision(name="B", date="2026-10-01", reason="tender", by="RA"),))
    own = calculation(project, evaluate(project), CHAPTERS_SET, ("record",))
    pdf(own, tmp_path / "c.pdf")
    said = words("\n".join(texts_of(tmp_path / "c.pdf")))
    assert "edge of the ramp, agreed on site" in said
    assert "Accepted with a reason: 1" in said
    assert "2026-10-01" in said
    assert "EN 1992-1-1" in said
    assert "AS 3600:2018" not in said  # of a standard that is not chosen
    assert "Terzaghi 1943" in said


def test_settings_that_differ_are_named_with_their_default_and_why(demo: Project) -> None:
    project = noted(
        edited(demo, ("settings", "concrete_cover"), 0.063), ("settings", "concrete_cover"), "splash from the quay"
    )
    own = calculation(project, evaluate(project), CHAPTERS_SET, ("basis",))
    table = next(b for b in own.blocks if isinstance(b, Table) and b.head[0] == "Setting")
    rows = {entry(r[0]): [entry(e) for e in r[1:]] for r in table.rows}
    for name, field in type(project.settings).model_fields.items():
        differs = getattr(project.settings, name) != field.get_default(call_default_factory=True)
        assert (str(field.title) in rows) == differs, name
    assert rows["Cover of the bars"] == ["0.063 m", "0.050 m", "splash from the quay"]


@pytest.mark.long
def test_shears_and_moments_of_straps_and_ribs_are_drawn() -> None:
    for name, title in (("lindmere", "S1: shear and moment"), ("hollin", "Rib X3: shear and moment")):
        project, results = of(name)
        own = calculation(project, results, CHAPTERS_SET, ("bases",))
        assert any(isinstance(b, Figure) and b.title.startswith(title) for b in own.blocks)


def test_one_base_has_its_page_and_all_its_workings() -> None:
    project, results = of("redstem")
    name = project.pads[0].name
    own = of_base(project, results, name)
    heads = [b.text for b in own.blocks if isinstance(b, Heading) and b.level == 3]
    wanted = [c for c in results.pad(name).checks if c.ratio is not None]
    assert len(heads) == len(wanted)
    assert all(any(c.check.title in h for h in heads) for c in wanted)


# ---------------------------------------------------------------- DOCX and HTML


@pytest.mark.long
def test_docx_has_the_same_headings_tables_and_lines(tmp_path: Path) -> None:
    _, _, own = made("redstem", "governing")
    write_docx(own, tmp_path / "c.docx")
    document = Document(str(tmp_path / "c.docx"))
    heads = [
        p.text for p in document.paragraphs if p.style is not None and p.style.name.startswith(("Heading", "Title"))
    ]
    assert heads == [b.text for b in own.blocks if isinstance(b, Heading)]
    tables = [t for t in document.tables if t.style is not None and t.style.name == "Table Grid"]
    wanted = [b for b in own.blocks if isinstance(b, Table) and (b.rows or any(b.head))]
    assert len(tables) == len(wanted)
    for table, block in zip(tables, wanted):
        rows = ([list(block.head)] if any(block.head) else []) + [[entry(e) for e in r] for r in block.rows]
        assert [[c.text for c in row.cells] for row in table.rows] == rows
    said = "\n".join(p.text for p in document.paragraphs)
    for step in steps(own):
        assert re.sub(r"_([\w,′]+)", r"\1", step.text) in said
    assert len(document.inline_shapes) > 3
    # the head of a table is repeated on every page
    assert "w:tblHeader" in tables[1]._tbl.xml


class _Read(HTMLParser):
    def __init__(self) -> None:
        super().__init__()
        self.ids: set[str] = set()
        self.links: list[str] = []
        self.text: list[str] = []
        self.drawings = 0

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        for name, value in attrs:
            if name == "id" and value:
                assert value not in self.ids or value.startswith("within"), value
                self.ids.add(value)
            if name == "href" and value:
                self.links.append(value)
        self.drawings += tag == "svg"

    def handle_data(self, data: str) -> None:
        self.text.append(data)


@pytest.mark.long
def test_html_is_one_file_whose_links_lead_somewhere() -> None:
    _, _, own = made("redstem", "governing")
    text = calculation_html(own)
    read = _Read()
    read.feed(text)
    assert read.links
    assert all(link[0] == "#" and link[1:] in read.ids for link in read.links)
    assert read.drawings > 5
    assert "<script" not in text
    assert "http://" not in text.replace("http://www.w3.org/2000/svg", "")
    said = "".join(read.text)
    for block in own.blocks:
        if isinstance(block, Heading | Para):
            assert block.text in said


@pytest.mark.long
def test_what_is_typed_is_never_markup(tmp_path: Path) -> None:
    project = edited(one_pad(), ("title", "project"), "<b>A & B</b> <script>x</script>")
    own = calculation(project, evaluate(project), CHAPTERS_SET.replaced(workings="none"))
    assert "<script>x" not in calculation_html(own)
    pdf(own, tmp_path / "c.pdf")
    said = words(texts_of(tmp_path / "c.pdf")[0])
    assert "<b>A & B</b>" in said


# ---------------------------------------------------------------- sets


def test_sets_are_kept_with_the_project_and_completed(demo: Project) -> None:
    assert [s.name for s in usual_sets(demo)] == ["for approval", "for site"]
    assert usual_sets(demo)[0] is usual_sets(demo)[0]
    own = set_named(demo, "For Site")
    changed = with_set(demo, own.replaced(sheets=(SheetChoice(key="plan"), SheetChoice(key="nothing-known"))), own.name)
    again = set_named(changed, "for site")
    assert [c.key for c in ticked(again)] == ["plan"]
    assert sorted(c.key for c in completed(again)) == sorted(KINDS)
    assert evaluate(changed).holds == evaluate(demo).holds
    with pytest.raises(KeyError, match="there is no set 'x'; the project has: for approval, for site"):
        set_named(demo, "x")


def test_two_sets_of_one_name_are_refused(demo: Project) -> None:
    own = usual_sets(demo)[0]
    with pytest.raises(ValueError, match="is used 2 times"):
        demo.replaced(sheet_sets=(own, own))


@pytest.mark.long
@pytest.mark.parametrize(
    ("name", "paper", "lying", "size"),
    [
        ("lindmere", "", False, (210.0, 297.0)),
        ("lindmere", "A3", True, (420.0, 297.0)),
        ("lindmere", "A4", True, (297.0, 210.0)),
        ("redstem", "", True, (279.4, 215.9)),
        ("redstem", "ANSI B", False, (279.4, 431.8)),
    ],
)
def test_it_is_on_the_paper_of_the_set(
    name: str, paper: str, lying: bool, size: tuple[float, float], tmp_path: Path
) -> None:
    """Any paper, standing or lying: every page as large, no text lost, Word and a browser print on it too."""
    project, results = of(name)
    usual = CHAPTERS_SET.replaced(by_type=True)
    own = calculation(project, results, usual.replaced(paper=paper, lying=lying))
    assert own.page == pytest.approx(size)
    reader = pdf(own, tmp_path / "own.pdf")
    for page in reader.pages:
        assert [float(v) * 25.4 / 72 for v in page.mediabox[2:]] == pytest.approx(size, abs=0.01)
    usually = calculation(project, results, usual)
    assert own.blocks == usually.blocks
    figures = [b for b in own.blocks if isinstance(b, Figure)]
    assert figures
    assert all(own.fitted(f).height <= size[1] - 65 for f in figures)
    if lying:
        write_docx(own, tmp_path / "own.docx")
        section = Document(str(tmp_path / "own.docx")).sections[0]
        assert (section.page_width.mm, section.page_height.mm) == pytest.approx(size, abs=0.05)
    assert f"@page {{ size: {size[0]:g}mm {size[1]:g}mm" in calculation_html(own)
    text = " ".join(p.extract_text() for p in reader.pages)
    for pad in project.pads:
        assert pad.name in text
