"""What the core refuses to do, one class per thing a caller may handle."""

from __future__ import annotations


class CoreError(ValueError):
    """Base of all refusals of the core."""


class LayerMissingError(CoreError):
    """An edit names a layer that the composite does not have."""

    def __init__(self, layer_id: str) -> None:
        super().__init__(f"the composite must have the layer; got id {layer_id}")
        self.layer_id = layer_id


class LayerExistsError(CoreError):
    """An edit would give two layers of one composite the same id."""

    def __init__(self, layer_id: str) -> None:
        super().__init__(f"a new layer needs a new id; got {layer_id} again")
        self.layer_id = layer_id


class LayerLockedError(CoreError):
    """An edit would change a locked layer."""

    def __init__(self, layer_name: str) -> None:
        super().__init__(f"the layer must be unlocked first; {layer_name} is locked")
        self.layer_name = layer_name


class LayerLimitError(CoreError):
    """An edit would put more layers on one another than the product carries."""

    def __init__(self, limit: int) -> None:
        super().__init__(f"a composite must have at most {limit} layers")
        self.limit = limit


class GroupStretchedError(CoreError):
    """A group would be scaled differently across and down."""

    def __init__(self, across: float, down: float) -> None:
        super().__init__(
            f"a group must keep its proportions; got scales {across:g} and {down:g}"
        )


class FoldedError(CoreError):
    """Corners or a grid would fold a picture over itself."""

    def __init__(self) -> None:
        super().__init__("a picture must not be folded over itself")


class GridMismatchError(CoreError):
    """A grid names more or fewer points than it has."""

    def __init__(self, columns: int, rows: int, count: int) -> None:
        super().__init__(
            f"a grid of {columns} by {rows} points must move each; got {count} moves"
        )


class NoSurfaceError(CoreError):
    """No even area with four sides lies where a stroke went."""

    def __init__(self) -> None:
        super().__init__(
            "no even area with four sides was found there; nothing was changed. Go "
            "over more of the blank place, or pull the corners by hand"
        )


class NotAlikeError(CoreError):
    """Two pictures cannot be lined up by what they have in common."""

    def __init__(self, what: str) -> None:
        super().__init__(f"the {what} of both must agree on one place; they do not")
        self.what = what


class NoSuchWorkError(CoreError):
    """An edit does not fit the kind of layer that it names."""

    def __init__(self, kind: str, work: str) -> None:
        super().__init__(f"the layer must be of another kind; a {kind} {work}")


class NotTogetherError(CoreError):
    """Layers to be grouped do not lie in the same group."""

    def __init__(self) -> None:
        super().__init__("layers to be grouped must lie in one and the same group")


class TooFewLayersError(CoreError):
    """An edit needs more layers than it names."""

    def __init__(self, least: int, count: int) -> None:
        super().__init__(f"at least {least} layers must be chosen; got {count}")


class WarpedError(CoreError):
    """What is asked for needs a straight layer."""

    def __init__(self, layer_name: str) -> None:
        super().__init__(
            f"{layer_name} must be straight for that; take its corners and its bend "
            "back first"
        )


class DepthLimitError(CoreError):
    """An edit would put groups into groups more often than the product carries."""

    def __init__(self, limit: int) -> None:
        super().__init__(f"groups must lie in one another at most {limit} deep")
        self.limit = limit


class BeyondLimitsError(CoreError):
    """An edit would make something that could not be stored and opened again."""

    def __init__(self, what: str) -> None:
        super().__init__(f"what comes of it must lie within the limits; {what}")


class MaskCircleError(CoreError):
    """A layer's mask would read that very layer, by others or at once."""

    def __init__(self, layer_name: str) -> None:
        super().__init__(
            "a mask by another layer must not come back to its own, nor read too many "
            f"in a row; that of {layer_name} would"
        )
        self.layer_name = layer_name


class LayerPartLimitError(CoreError):
    """Too many parts of a composite's masks are other layers."""

    def __init__(self, limit: int) -> None:
        super().__init__(
            f"at most {limit} parts of all masks together may be other layers"
        )
        self.limit = limit


class ChangedElsewhereError(CoreError):
    """What an edit changes was taken away, or moved, since it was made."""

    def __init__(self) -> None:
        super().__init__(
            "what it changes was taken away or moved in another window meanwhile"
        )


class PartMissingError(CoreError):
    """An edit names a part that a mask does not have."""

    def __init__(self, part_id: str) -> None:
        super().__init__(f"the mask must have the part; got id {part_id}")
        self.part_id = part_id


class PartExistsError(CoreError):
    """An edit would give two parts of one mask the same id."""

    def __init__(self, part_id: str) -> None:
        super().__init__(f"a new part needs a new id; got {part_id} again")
        self.part_id = part_id


class PartLimitError(CoreError):
    """A mask would have more parts than the product carries."""

    def __init__(self, limit: int) -> None:
        super().__init__(f"a mask must have at most {limit} parts")
        self.limit = limit


class NothingToMatchError(CoreError):
    """A layer shows too little, or too little lies behind it, to be compared."""

    def __init__(self) -> None:
        super().__init__("both must show something there to be matched")


class MendLimitError(CoreError):
    """One mended place is larger than can be filled from around."""

    def __init__(self, limit: int) -> None:
        super().__init__(f"one place to mend must have at most {limit} pixels")
        self.limit = limit


class MendsLimitError(CoreError):
    """A photo would have more mended places than the product carries."""

    def __init__(self, limit: int) -> None:
        super().__init__(f"a photo must have at most {limit} mended places")
        self.limit = limit


class MendExistsError(CoreError):
    """An edit would give two mended places of one photo the same id."""

    def __init__(self, mend_id: str) -> None:
        super().__init__(f"a new mended place needs a new id; got {mend_id} again")
        self.mend_id = mend_id


class MendMissingError(CoreError):
    """An edit names a mended place that the photo does not have."""

    def __init__(self, mend_id: str) -> None:
        super().__init__(f"the photo must have the mended place; got id {mend_id}")
        self.mend_id = mend_id


class StrokeLimitError(CoreError):
    """A stroke goes over more pixels than can be painted in one piece."""

    def __init__(self, limit: int) -> None:
        super().__init__(
            f"a stroke must go over at most {limit // 1_000_000} million pixels; "
            "paint it in pieces, or with a smaller brush"
        )
        self.limit = limit


class StrokesLimitError(CoreError):
    """A part has as many strokes as it may have."""

    def __init__(self, limit: int) -> None:
        super().__init__(
            f"what is painted must have at most {limit} strokes; add another part"
        )
        self.limit = limit


class NoCompositeError(CoreError):
    """What claims to be a stored composite is none."""

    def __init__(self) -> None:
        super().__init__("a stored composite must have a canvas and layers")


class NewerVersionError(CoreError):
    """Something was stored by a later version of the product than this one."""

    def __init__(self, version: object) -> None:
        super().__init__(
            f"what is stored must be of a known version; got {version}, which a "
            "newer Glyphaneme wrote"
        )
        self.version = version


class PixelsMissingError(CoreError):
    """A visible layer's picture was not handed to the renderer."""

    def __init__(self, picture: str) -> None:
        super().__init__(f"pixels must hold every visible picture; {picture} is absent")
        self.picture = picture


class PaintingMissingError(CoreError):
    """The strokes of a visible layer's mask were not handed to the renderer."""

    def __init__(self, last: str) -> None:
        super().__init__(f"pixels must hold every visible painting; {last} is absent")
        self.last = last


class RasterMissingError(CoreError):
    """The pixels of a part of a visible layer's mask were not handed over."""

    def __init__(self, part: str) -> None:
        super().__init__(f"pixels must hold every visible part; {part} is absent")
        self.part = part


class StrokeMissingError(CoreError):
    """A stroke is not there, or not what it is called."""

    def __init__(self) -> None:
        super().__init__("a stroke must be there, and be what it is called")


class PixelsShapeError(CoreError):
    """An array is not (H, W, 4) uint8 and C-contiguous."""

    def __init__(self, shape: tuple[int, ...], dtype: str) -> None:
        super().__init__(
            "pixels must be (H, W, 4) uint8, C-contiguous, at least 1 by 1; "
            f"got {shape} {dtype}"
        )
        self.shape = shape
        self.dtype = dtype


class PlaneShapeError(CoreError):
    """An array is not (H, W) uint8."""

    def __init__(self, shape: tuple[int, ...], dtype: str) -> None:
        super().__init__(
            "a mask's pixels must be (H, W) uint8, at least 1 by 1; "
            f"got {shape} {dtype}"
        )


class ViewSizeError(CoreError):
    """A view has no pixels, too many of them, or a scale that is not positive."""

    def __init__(self, what: str) -> None:
        super().__init__(
            f"a view must have 1..65535 pixels a side and scale > 0; {what}"
        )


class NoSubjectError(CoreError):
    """Nothing in a picture stands out from the rest."""

    def __init__(self) -> None:
        super().__init__("the picture must have a subject that stands out")


class TonePointsError(CoreError):
    """Points or ends of a tone lie on one another, or in the wrong order."""

    def __init__(self) -> None:
        super().__init__(
            "each point or end of a tone must lie at least one level of 255 beyond the "
            "one before it"
        )


class NoColorThereError(CoreError):
    """A layer shows nothing where a colour was looked for."""

    def __init__(self) -> None:
        super().__init__("the layer must show something at the spot that is pointed at")


class NotMeasuredError(CoreError):
    """Words would be set without anybody having measured them."""

    def __init__(self) -> None:
        super().__init__("words must be measured in their fonts before they are set")


class FontUnreadableError(CoreError):
    """Bytes are no font that words can be set in."""

    def __init__(self) -> None:
        super().__init__("the file must be a font with letters")


class TooManyTilesError(CoreError):
    """A poster would need more sheets than anybody glues together."""

    def __init__(self, count: int, limit: int) -> None:
        super().__init__(
            f"a poster may have at most {limit} sheets of paper; got {count}"
        )
        self.count = count


class PlanUnfitError(CoreError):
    """What a plan would make of its photos is beyond what a composite may hold."""

    def __init__(self, title: str) -> None:
        super().__init__(
            f"the photos and words must fit {title}: some of it would be too large, or "
            "more than one picture may hold"
        )


class LayerUnsayableError(CoreError):
    """Ordinary edits do not say all that a layer is."""

    def __init__(self, layer_name: str) -> None:
        super().__init__(f"ordinary edits must say all of a layer; not of {layer_name}")
        self.layer_name = layer_name


class PlanRefusedError(CoreError):
    """A file is no plan, or one that cannot be read."""
