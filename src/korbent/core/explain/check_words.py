"""What each check asks, and what helps when it fails: for the help at hand."""

from collections.abc import Mapping
from types import MappingProxyType

from korbent.words import say

_WIDER = say("A wider base helps, or one that is moved towards the load.")
_PLAIN = say("Thicker concrete helps, or bars: a reinforced base.")
_STEEL = say("Thicker bars or a closer spacing help; so does a thicker base.")
_RIB = say("A deeper or wider rib helps, more bars, or another line of ribs.")
_STRAP = say("A deeper or wider strap helps, more bars, or bases that stand less far off their columns.")

_MEANS: Mapping[str, str] = {
    "presumed-pressure": say(
        "Does the pressure below the base stay within what the ground is presumed to carry? {wider}", wider=_WIDER
    ),
    "resistance-drained": say(
        "Would the ground fail below the base in the long run, when pore water has had time to flow? "
        "{wider} Founding deeper helps too.",
        wider=_WIDER,
    ),
    "resistance-undrained": say("Would the ground fail at once, before pore water can flow? {wider}", wider=_WIDER),
    "safety-drained": say(
        "How many times the load would it take until the ground fails, in the long run? {wider} "
        "Founding deeper helps too.",
        wider=_WIDER,
    ),
    "safety-undrained": say(
        "How many times the load would it take until the ground fails at once? {wider}", wider=_WIDER
    ),
    "resistance-bounds-drained": say(
        "How much of the design load does the ground below the strip certainly bear, all strata, "
        "inclination and eccentricity together, in the long run? {wider}",
        wider=_WIDER,
    ),
    "resistance-bounds-undrained": say("The same at once, before pore water can flow. {wider}", wider=_WIDER),
    "safety-bounds-drained": say(
        "How many times the load, all of it growing together, does the ground below the strip certainly "
        "bear, in the long run? {wider}",
        wider=_WIDER,
    ),
    "safety-bounds-undrained": say("The same at once, before pore water can flow. {wider}", wider=_WIDER),
    "raft-pressure": say(
        "Does the greatest pressure that the plate brings onto the ground stay within what it may carry? A thicker raft or a wider overhang helps."
    ),
    "eccentricity": say(
        "Does the load act near enough to the middle of the base? {wider} More weight above helps too.", wider=_WIDER
    ),
    "contact-share": say("Does enough of the underside stay pressed onto the ground? {wider}", wider=_WIDER),
    "top-cover": say("Is there enough soil over the top of the base? Founding deeper or a thinner base helps."),
    "frost-depth": say("Is the underside below the depth to which the ground freezes? Founding deeper helps."),
    "founding-stratum": say("Does the base stand in the soil that was asked for, deep enough? Founding deeper helps."),
    "replacement": say(
        "Does the fill or lean concrete below the base carry the pressure by itself? A wider base or a better fill helps."
    ),
    "board": say("Does the board below the base carry the pressure? {wider}", wider=_WIDER),
    "site": say(
        "Does the base keep its distance from boundaries, obstacles and other bases? Move it, make it smaller, or hold it at the boundary."
    ),
    "sliding-drained": say(
        "Does friction hold the base against horizontal loads? More weight, a wider base, or the passive resistance before it help."
    ),
    "sliding-undrained": say(
        "Does the undrained strength below the base hold it against horizontal loads? A wider base helps."
    ),
    "overturning": say(
        "Do the loads that hold outweigh those that would turn the base over an edge? {wider} More weight helps too.",
        wider=_WIDER,
    ),
    "uplift": say(
        "Do the weights hold the base against tension and water from below? More concrete or backfill helps."
    ),
    "settlement": say(
        "How far does the base settle in the years asked for, with consolidation and creep? A wider base, a deeper one, or better ground below helps."
    ),
    "settlement-short": say("How far does the base settle at once? A wider base helps."),
    "slope": say(
        "How much more does this base settle than its neighbour, over their distance? Bring their settlements together: a wider base where it settles more, a smaller one where it settles less."
    ),
    "raft-slope": say(
        "How much do the columns of the raft settle differently, over their distance? A thicker raft or ribs help."
    ),
    "raft-neighbours": say(
        "Are the settlements of the bases beside the raft right, though their checks take its pressure as even? Here they are found again as its plate presses; the difference may be a tenth of their limit. More distance or a thicker raft brings both together."
    ),
    "relative-rotation": say(
        "How far does this base leave the straight line through its neighbours? Bring their settlements together."
    ),
    "tilt": say(
        "How far does the base turn, by its moments and by what presses beside it? A longer base in that direction helps, or one that is moved towards the load."
    ),
    "punching": say(
        "Would the column punch through the base, on a perimeter around it? A thicker base helps most, then more steel below."
    ),
    "punching-face": say(
        "Does the concrete right at the face of the column hold? A thicker base, a larger column or stronger concrete helps."
    ),
    "shear-x": say("Would the base shear off beside the column, across x? A thicker base helps most."),
    "shear-y": say("Would the base shear off beside the column, across y? A thicker base helps most."),
    "bottom-x": say("Do the bars below, along x, carry the bending? {steel}", steel=_STEEL),
    "bottom-y": say("Do the bars below, along y, carry the bending? {steel}", steel=_STEEL),
    "top-x": say("Do the bars above, along x, carry the bending? {steel}", steel=_STEEL),
    "top-y": say("Do the bars above, along y, carry the bending? {steel}", steel=_STEEL),
    "plain-x": say("Does the concrete carry the bending along x without bars? {plain}", plain=_PLAIN),
    "plain-y": say("Does the concrete carry the bending along y without bars? {plain}", plain=_PLAIN),
    "plain-shear-x": say("Does the concrete carry the shear across x without bars? {plain}", plain=_PLAIN),
    "plain-shear-y": say("Does the concrete carry the shear across y without bars? {plain}", plain=_PLAIN),
    "plain-punching": say("Would the column punch through the plain concrete? {plain}", plain=_PLAIN),
    "minimum-x": say("Is there as much steel along x as is asked for in any case? More bars, or a thinner base."),
    "minimum-y": say("Is there as much steel along y as is asked for in any case? More bars, or a thinner base."),
    "anchorage-x": say(
        "Do the bars along x reach far enough into the edge to be held? Hooks, thinner bars at a closer spacing, or a wider base help."
    ),
    "anchorage-y": say(
        "Do the bars along y reach far enough into the edge to be held? Hooks, thinner bars at a closer spacing, or a wider base help."
    ),
    "cover": say(
        "Are the bars covered by enough concrete for bond, exposure and fire? More cover helps, or blinding below."
    ),
    "side-bars": say("Are there enough bars along high sides to keep cracks fine? More bars there."),
    "bearing-concrete": say(
        "Does the concrete below the column carry its pressure? A larger column or pedestal, or stronger concrete helps."
    ),
    "dowels": say("Do the dowels carry what goes from the column into the base? More or thicker dowels."),
    "dowels-steel": say("Are there as many dowels as are asked for in any case? More or thicker ones."),
    "dowels-anchorage": say("Are the dowels held in the base? A thicker base or thinner dowels help."),
    "pedestal": say("Does the pedestal carry its force and moments? A larger one, or more bars."),
    "pedestal-steel": say(
        "Has the pedestal as much steel as is asked for in any case? More bars, or a smaller pedestal."
    ),
    "pedestal-ties": say("Are the ties of the pedestal close and thick enough? A closer spacing, thicker ties."),
    "pedestal-slender": say(
        "Is the pedestal short enough that its bending sideways need not be looked at? A larger or a shorter one."
    ),
    "cracks-x": say(
        "Do cracks across the bars along x stay fine enough? Thinner bars at a closer spacing, or more of them."
    ),
    "cracks-y": say(
        "Do cracks across the bars along y stay fine enough? Thinner bars at a closer spacing, or more of them."
    ),
    "strap-top": say("Do the bars above carry the bending of the strap? {strap}", strap=_STRAP),
    "strap-bottom": say("Do the bars below carry the bending of the strap? {strap}", strap=_STRAP),
    "strap-shear": say("Do concrete and links carry the shear of the strap? {strap}", strap=_STRAP),
    "strap-links": say("Has the strap as many links as are asked for in any case? A closer spacing, thicker links."),
    "rib-top": say("Do the bars above carry the bending of the ribs? {rib}", rib=_RIB),
    "rib-bottom": say("Do the bars below carry the bending of the ribs? {rib}", rib=_RIB),
    "rib-shear": say("Do concrete and links carry the shear of the ribs? {rib}", rib=_RIB),
    "rib-cracks": say("Do cracks of the ribs stay fine enough? More bars, thinner ones."),
    "rib-links": say("Have the ribs as many links as are asked for in any case? A closer spacing, thicker links."),
    "spacing-x": say("Are the bars along x neither too far apart nor too close to cast between? Another spacing."),
    "spacing-y": say("Are the bars along y neither too far apart nor too close to cast between? Another spacing."),
}
MEANS: Mapping[str, str] = MappingProxyType(_MEANS)
"""By the id of a check."""

_EN = {
    "shear": "**One-way shear**",
    "punching": "**Punching**: perimeters",
    "flexure": "**Flexure**",
    "detailing": "**Least steel**",
    "cover": "Partial factors",
}
_PARTS: Mapping[str, tuple[str, ...]] = {
    "shear": ("shear-x", "shear-y"),
    "punching": ("punching", "punching-face"),
    "flexure": ("bottom-x", "bottom-y", "top-x", "top-y"),
    "detailing": ("minimum-x", "minimum-y", "spacing-x", "spacing-y", "anchorage-x", "anchorage-y"),
    "cover": ("cover",),
}
_THEORY: dict[str, tuple[str, ...]] = {
    "presumed-pressure": ("**Presumed pressure**", "Rigid base, pressure linear"),
    "resistance-drained": ("**Resistance**", "**Factor sets**", "All strata below the base"),
    "resistance-undrained": ("**Resistance**", "**Factor sets**", "All strata below the base"),
    "safety-drained": ("Each has exactly the factors", "All strata below the base"),
    "safety-undrained": ("Each has exactly the factors", "All strata below the base"),
    **{
        f"{kind}-bounds-{way}": ("**As the resistance**", "**Bounds**")
        for kind in ("resistance", "safety")
        for way in ("drained", "undrained")
    },
    "raft-pressure": ("**Ground**: springs", "**A greatest pressure**"),
    "eccentricity": ("**Eccentricity**",),
    "contact-share": ("**Eccentricity**", "Rigid base, pressure linear"),
    "top-cover": ("**Levels**",),
    "frost-depth": ("**Levels**",),
    "founding-stratum": ("**Levels**",),
    "replacement": ("**Replacement below**",),
    "board": ("**Replacement below**",),
    "site": ("The map evaluates",),
    "sliding-drained": ("**Sliding**",),
    "sliding-undrained": ("**Sliding**",),
    "overturning": ("**Overturning**",),
    "uplift": ("**Uplift**",),
    "settlement": ("**In the end.**", "**Influence depth**", "**The rigid base**"),
    "settlement-short": ("Under combinations that serve",),
    "slope": ("**Differences**",),
    "relative-rotation": ("**Differences**",),
    "tilt": ("**Differences**",),
    "raft-slope": ("**Plate**: Mindlin",),
    "raft-neighbours": ("**Neighbours**",),
    "bearing-concrete": ("**Column on the base**",),
    "dowels": ("**Dowels**",),
    "dowels-steel": ("**Dowels**",),
    "dowels-anchorage": ("**Dowels**",),
    "pedestal": ("**Pedestals**",),
    "pedestal-steel": ("**Pedestals**",),
    "pedestal-ties": ("**Ties** of pedestals",),
    "pedestal-slender": ("**Ties** of pedestals",),
    "cracks-x": ("**Cracks** of both faces",),
    "cracks-y": ("**Cracks** of both faces",),
    "side-bars": ("Partial factors",),
    **dict.fromkeys(
        ("plain-x", "plain-y", "plain-shear-x", "plain-shear-y", "plain-punching"),
        ("**Plain concrete** (a setting)",),
    ),
    **dict.fromkeys(
        ("strap-top", "strap-bottom", "strap-shear", "strap-links"),
        ("A beam, clear of the ground", "Every check of both bases"),
    ),
    **dict.fromkeys(("rib-top", "rib-bottom", "rib-shear", "rib-cracks", "rib-links"), ("**Ribs** are beams",)),
}
for _part, _checks in _PARTS.items():
    _THEORY |= dict.fromkeys(_checks, (_EN[_part],))
THEORY: Mapping[str, tuple[str, ...]] = MappingProxyType(_THEORY)
"""By the id of a check, how the paragraphs of the theory begin that tell of it."""
OF_STANDARDS: Mapping[str, str] = MappingProxyType(
    {"ACI 318-19": "**ACI 318-19**", "ACI 318-14": "**ACI 318-14**", "AS 3600:2018": "**AS 3600:2018**"}
)
"""By standard, how the paragraph begins that tells of its concrete; EN 1992 has one for each check."""
