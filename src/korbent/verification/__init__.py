"""Reference cases: what the core computes against what is known otherwise, and how it is known."""

from korbent.verification.bearing import METHOD_CASES
from korbent.verification.case import Case, Outcome, as_markdown, as_text, outcomes
from korbent.verification.choices import CHOICES
from korbent.verification.combinations import COMBINATIONS
from korbent.verification.concrete import CONCRETE
from korbent.verification.concrete_matrix import CONCRETE_MATRIX
from korbent.verification.contact import CONTACT, ROUND
from korbent.verification.ground import GROUND
from korbent.verification.joints import JOINTS
from korbent.verification.layers import LAYERS
from korbent.verification.outlines import OUTLINES
from korbent.verification.pad import PAD
from korbent.verification.plasticity import PLASTICITY
from korbent.verification.plates import PLATES
from korbent.verification.raft_construction import RAFT_CONSTRUCTION
from korbent.verification.ribs import RIBS
from korbent.verification.ritz import RITZ
from korbent.verification.settlement import SETTLEMENT
from korbent.verification.settlement_construction import SETTLEMENT_CONSTRUCTION
from korbent.verification.shapes import SHAPES
from korbent.verification.stability import STABILITY
from korbent.verification.standards import STANDARDS
from korbent.verification.straps import STRAPS
from korbent.verification.strata import STRATA
from korbent.verification.tests_of_soil import SOIL_TESTS

CASES: tuple[Case, ...] = (
    *CONTACT,
    *ROUND,
    *GROUND,
    *METHOD_CASES,
    *LAYERS,
    *SHAPES,
    *STABILITY,
    *CHOICES,
    *SETTLEMENT,
    *SETTLEMENT_CONSTRUCTION,
    *SOIL_TESTS,
    *CONCRETE,
    *STANDARDS,
    *JOINTS,
    *CONCRETE_MATRIX,
    *PAD,
    *COMBINATIONS,
    *PLATES,
    *OUTLINES,
    *RIBS,
    *RITZ,
    *STRAPS,
    *STRATA,
    *RAFT_CONSTRUCTION,
    *PLASTICITY,
)

__all__ = ["CASES", "Case", "Outcome", "as_markdown", "as_text", "outcomes"]
