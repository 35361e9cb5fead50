"""Words that sentences and the history share."""

from __future__ import annotations

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.mask import Join

MODE_WORDS: dict[BlendMode, str] = {
    BlendMode.NORMAL: "shown plainly",
    BlendMode.MULTIPLY: "multiplied",
    BlendMode.SCREEN: "screened",
    BlendMode.OVERLAY: "overlaid",
    BlendMode.DARKEN: "darkening only",
    BlendMode.LIGHTEN: "lightening only",
    BlendMode.COLOR_DODGE: "in color dodge",
    BlendMode.COLOR_BURN: "in color burn",
    BlendMode.HARD_LIGHT: "in hard light",
    BlendMode.SOFT_LIGHT: "in soft light",
    BlendMode.DIFFERENCE: "as a difference",
    BlendMode.EXCLUSION: "in exclusion",
    BlendMode.HUE: "giving only hue",
    BlendMode.SATURATION: "giving only saturation",
    BlendMode.COLOR: "giving only color",
    BlendMode.LUMINOSITY: "giving only luminosity",
}


JOIN_WORDS: dict[Join, str] = {
    Join.ADD: "and",
    Join.TAKE: "without",
    Join.KEEP: "only inside",
}
"""How a part of a recipe joins what stands before it."""


def percent(share: float) -> str:
    """Say a share of the whole.

    Parameters
    ----------
    share : float, 0..1
        Such as an opacity.

    Returns
    -------
    str
        With a no-break space: the number and its sign stay on one line.

    Examples
    --------
    >>> percent(0.325) == "32.5\u00a0%"
    True
    """
    return f"{share * 100:.3g}\u00a0%"
