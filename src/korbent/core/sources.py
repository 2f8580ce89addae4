"""Which formulas and coefficients are known from memory only: by the reference under which they stand in a working.

Where the text of a standard or a paper could not be consulted, its results carry a mark, whatever second method they
were computed by:
a second method that repeats the same coefficient proves nothing about the coefficient. What follows from mechanics
alone, or was derived a second time, carries none."""

from korbent.words import english, say

MARK = "†"
MEANING = say("not checked against the printed text")

UNCHECKED: tuple[tuple[str, str], ...] = (
    ("ACI 318-19", say("strengths, limits, reduction factors and clause numbers")),
    ("ACI 318-14", say("strengths, limits, reduction factors and clause numbers")),
    ("AS 3600:2018", say("strengths, limits, capacity factors and clause numbers")),
    ("ASCE 7", say("what remains of seismic overturning")),
    ("EN 1992-1-2", say("axis distances by fire resistance")),
    ("EN 1992-1-1", say("recommended values, limits and clause numbers; crack width also for AS 3600")),
    ("EN 1997-1 (D", say("shape, inclination and base factors; N_q and N_c are closed forms (Prandtl, Reissner)")),
    ("EN 1997-1 D", say("shape, inclination and base factors, N_γ")),
    ("EN 1997-1:2004 Annex D", say("shape, inclination and base factors, N_γ")),
    ("EN 1997-1 table A", say("partial factors")),
    ("EN 1997-1 (6.", say("rules of sliding, such as 0.4 V")),
    ("EN 1997-1 6.", say("rules and limits")),
    ("EN 1997-1 annex H", say("limits of movement")),
    ("EN 1997-1 2.4.7", say("rules of verification")),
    ("Terzaghi 1943", say("shape factors; K_pγ as tabulated in a later book")),
    ("Meyerhof 1963", say("shape, depth and inclination factors")),
    ("Brinch Hansen 1970", say("shape, depth, inclination, base and ground factors")),
    ("Vesic 1975", say("shape, depth, inclination, base and ground factors")),
    ("Brown and Meyerhof 1969", say("1.5 t/B of a strip, 3 t/B of a circle")),
    ("Meyerhof and Hanna 1978", say("form of the punching term; K_s and c_a by a setting")),
    (
        "Meyerhof 1974",
        say("the parabola of a weak over a strong stratum; its reach is held below upper bounds of strips"),
    ),
    ("Mandel and Salençon 1972", say("π + 1 + B/2t, and 1/3 for a square")),
    ("Schmertmann", say("strain influence factors, C1 and C2")),
    ("Burland and Burbidge", say("compressibility by blow count and its factors")),
    ("Christian and Carrier", say("influence factors")),
    ("Fox 1948", say("embedment")),
    ("Skempton and MacDonald 1956", say("limits of movement")),
    ("Bjerrum 1963", say("limits of movement")),
    ("Scott 1963", say("N for plane strain")),
    ("characteristic point, Grasshoff 1955", say("place of the characteristic point")),
    ("Davis 1968", say("strengths of associated flow that stand for a smaller dilatancy")),
    ("Jaky 1944", say("K0 = 1 − sin φ′")),
    ("Borowicka 1943", say("place at which a rigid base settles")),
)
"""(beginning of the reference, what of it is from memory)."""

DERIVED = (
    "",
    "setting",
    "own choice",
    "DA2*",
    "Boussinesq 1885",
    "Newmark 1935",
    "Prandtl 1920",
    "Rankine 1857",
    "Bell 1915",
    "Meyerhof 1953",
    "EN 1997-1 C.2",
    "Bjerrum 1967, by shares",
    "interaction by strain compatibility",
    "e-log p",
    "E′ and ν",
    "mv",
    "not counted",
    "Terzaghi 1925",
    "Wood 1968",
    "Zienkiewicz and Zhu 1987",
)
"""Beginnings of references that follow from mechanics, were derived twice, or are choices."""


def unchecked(reference: str) -> str:
    """What of a reference is from memory only; '' where nothing is."""
    return next((what for start, what in UNCHECKED if english(reference).startswith(start)), "")


def marked(reference: str) -> str:
    """A reference with its mark, where it has one."""
    return f"{reference} {MARK}" if unchecked(reference) else reference
