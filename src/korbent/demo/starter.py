"""The project with which one starts from nothing: no ground and no column, but combinations that are ready."""

from korbent.core.model import Actions, Combination, Ground, LoadCase, Project, Settings


def starter() -> Project:
    """Two load cases and the combinations of EN 1990 for permanent and imposed loads."""
    heavy = {"weight_unfavourable": 1.35, "weight_favourable": 1.0}
    combinations = (
        Combination(number=1, name="G + Q", factors={"G": 1.0, "Q": 1.0}, serves=("allowable",)),
        Combination(
            number=2, name="1.35 G + 1.5 Q", factors={"G": 1.35, "Q": 1.5}, serves=("ultimate", "concrete"),
            factor_set="M1", **heavy,
        ),
        Combination(number=3, name="G + 1.3 Q", factors={"G": 1.0, "Q": 1.3}, serves=("ultimate",), factor_set="M2"),
        Combination(
            number=4, name="0.9 G", factors={"G": 0.9}, serves=("EQU", "UPL"), weight_unfavourable=0.9,
            weight_favourable=0.9, water="high",
        ),
        Combination(number=5, name="G + 0.3 Q", factors={"G": 1.0, "Q": 0.3}, serves=("settlement long",)),
    )  # fmt: skip
    return Project(
        settings=Settings(presumed_pressure=150.0),
        ground=Ground(),
        actions=Actions(
            cases=(
                LoadCase(name="G", nature="permanent", description="permanent"),
                LoadCase(name="Q", nature="imposed", description="imposed"),
            ),
            combinations=combinations,
        ),
    )
