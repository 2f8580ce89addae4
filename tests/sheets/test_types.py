"""Which bases are built alike."""

from korbent.core.model import Bars, Project, edited
from korbent.demo import DEMOS
from korbent.sheets.types import kind_of, kinds_built


def test_every_base_is_of_one_kind_with_a_name_of_its_own() -> None:
    for make in DEMOS.values():
        project = make()
        kinds = kinds_built(project)
        assert sorted(p.name for k in kinds for p in k.members) == sorted(p.name for p in project.pads)
        assert len({k.name for k in kinds}) == len(kinds)


def test_what_is_of_one_kind_has_the_same_size_and_bars(demo: Project) -> None:
    for kind in kinds_built(demo):
        for pad in kind.members:
            first = kind.first
            assert (pad.width, pad.length, pad.thickness, pad.shape) == (
                first.width,
                first.length,
                first.thickness,
                first.shape,
            )
            assert pad.reinforcement == first.reinforcement


def test_one_bar_more_makes_another_kind(demo: Project) -> None:
    before = kind_of(kinds_built(demo))
    assert before["P2"] == before["P3"]
    after = kind_of(
        kinds_built(edited(demo, ("pads", "P3", "reinforcement", "bottom_x"), Bars(diameter=0.016, spacing=0.19)))
    )
    assert after["P2"] != after["P3"]


def test_level_name_and_acceptance_make_none(demo: Project) -> None:
    before = kind_of(kinds_built(demo))
    after = kind_of(kinds_built(edited(demo, ("pads", "P3", "level"), demo.pad("P3").level - 0.0)))
    assert before == after
    assert (
        kind_of(kinds_built(demo.replaced(pads=demo.pads[::-1])))["P2"]
        == kind_of(kinds_built(demo.replaced(pads=demo.pads[::-1])))["P3"]
    )


def test_a_type_whose_members_are_all_alike_keeps_its_name(demo: Project) -> None:
    assert kind_of(kinds_built(demo))["P7"] == "T3"
    names = {k.name for k in kinds_built(demo)}
    assert not names & {t.name for t in demo.types} - {"T3"}
