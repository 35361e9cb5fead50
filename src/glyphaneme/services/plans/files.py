"""Pictures made by plans from files, without a server or a database."""

from __future__ import annotations

import hashlib
import io
from functools import partial
from typing import TYPE_CHECKING, BinaryIO, NamedTuple

from glyphaneme.codecs import decode_matte, encode_matte, read_picture
from glyphaneme.core.align import MapKind
from glyphaneme.core.errors import NoSubjectError, NotAlikeError, PlanRefusedError
from glyphaneme.core.mask import Raster
from glyphaneme.core.place import build_pyramid
from glyphaneme.core.plans import Filling, FoundCut, Known, empty_slots, filled
from glyphaneme.core.plans.completing import AskedPhoto, asked_of, completed
from glyphaneme.core.render import (
    all_needed,
    laid_patches,
    mended_copy,
    own_pyramid,
    render,
)
from glyphaneme.core.values import with_fields
from glyphaneme.core.words.typesetting import measured
from glyphaneme.services.aligning import aligned
from glyphaneme.services.errors import ServiceError, SlotsEmptyError
from glyphaneme.services.file_writing import write_file
from glyphaneme.services.filing import Making, require_size
from glyphaneme.services.layered_reading import painted_by
from glyphaneme.services.layered_writing import Sources, write_layered
from glyphaneme.services.matching import LOOKED_AT
from glyphaneme.services.matting import Cut, CutRequest
from glyphaneme.services.photo_facts import Glances, Photo, facts_of
from glyphaneme.services.pictures import name_from_file
from glyphaneme.services.plans.packing import INCOMPLETE, staying_mattes
from glyphaneme.services.rendering import Silent
from glyphaneme.services.showing import whole_view

if TYPE_CHECKING:
    from collections.abc import Iterator, Mapping, Sequence
    from pathlib import Path

    from glyphaneme.core.arrays import MatrixF64, PixelsU8
    from glyphaneme.core.cutout import MatteU8
    from glyphaneme.core.document import Composite, Layer
    from glyphaneme.core.finish import FileSettings
    from glyphaneme.core.mask import CutWay
    from glyphaneme.core.place import Pyramid
    from glyphaneme.core.plans import Plan
    from glyphaneme.core.plans.facts import PhotoFacts
    from glyphaneme.core.render import Assets
    from glyphaneme.core.words.faces import Face
    from glyphaneme.core.words.values import Measure, Words
    from glyphaneme.services.font_folder import FontFolder
    from glyphaneme.services.networks import Networks
    from glyphaneme.services.plans.packing import PlanFile


STAYS = "stays-"
"""Before the names of pictures that stay: files may be called alike."""


class PutIn(NamedTuple):
    """What is put into a plan: files for its slots, words, and what is chosen."""

    photos: Mapping[str, Sequence[Path]]
    words: Mapping[str, str]
    choices: Mapping[str, str]


class Tools(NamedTuple):
    """What finds subjects, and what sets words."""

    networks: Networks
    fonts: FontFolder


class _Matte(NamedTuple):
    file: bytes
    pixels: MatteU8
    level: int


class MadeOfFiles:
    """A plan's picture, made of files; photos and mattes are read and found once.

    Raises
    ------
    ServiceError
        The plan has no such slot, words or choice, or a needed slot is empty.
    PictureRefusedError
        A file is no picture that can be read.
    PlanUnfitError
        What would come of it is beyond what a composite may hold.
    """

    def __init__(self, packed: PlanFile, put: PutIn, tools: Tools) -> None:
        plan = packed.plan
        _require_known(plan, put)
        self._packed = packed
        self._tools = tools
        self._photos: dict[str, Photo] = {}
        self._mattes: dict[str, _Matte] = {}
        self.sayings: list[str] = []
        """What did not go as it should, in sentences."""
        named = {path: f"photo-{n}" for n, path in enumerate(_paths(put), 1)}
        self._files: dict[str, Path] = {one: path for path, one in named.items()}
        filling = Filling(
            photos={
                slot: tuple(named[path] for path in paths)
                for slot, paths in put.photos.items()
            },
            words=dict(put.words),
            choices=dict(put.choices),
        )
        lacking = empty_slots(plan, filling)
        if lacking:
            raise SlotsEmptyError([slot.title for slot in lacking])
        self.composite = self._complete(_cut_anew(plan), filling)

    def write(self, target: BinaryIO, settings: FileSettings) -> tuple[int, int]:
        """Write it as a picture; returns its width and height.

        Raises
        ------
        ExportSizeError
            It would be too large.
        """
        assets = self._assets(self.composite)
        making = Making(self.composite, self.composite.layers, assets, settings)
        require_size(making.dimensions, settings)
        found = write_file(making, target, Silent())
        return found["width"], found["height"]

    def write_layers(self, target: BinaryIO) -> tuple[int, int]:
        """Write it with all its layers, as OpenRaster; returns its width and height."""
        fonts = {}
        for name in all_needed(self.composite).fonts:
            data = self._tools.fonts.data(name)
            if data is not None:
                fonts[name] = data
        sources = Sources(
            self._original,
            self._packed.strokes,
            lambda name: iter((self._mattes[name].file,)),
            fonts,
        )
        write_layered(
            self.composite,
            self._assets(self.composite),
            target,
            sources=sources,
            report=Silent().report,
        )
        return self.composite.canvas.width, self.composite.canvas.height

    def _complete(self, plan: Plan, filling: Filling) -> Composite:
        glances = Glances()
        facts = {}
        for picture, asked in asked_of(plan, filling).items():
            photo = self._read(picture)
            cut = None
            if asked.way is not None and not glances.look(photo).is_cut:
                cut = self._cut(photo, asked.way)
            read = None if cut is None else partial(self._matte, cut.matte)
            found = None if cut is None or read is None else (cut, read)
            facts[picture] = facts_of(photo, asked, glances, found)
        stays = {name: self._staying(name) for name in plan.pictures}
        for layer in plan.all_layers():
            for part in staying_mattes(layer):
                self._keep_matte(part.matte, part.level)
        known = Known(facts, self._measured, stays=stays)
        pairs = {}
        for pair in filled(plan, filling, known).wanted.pairs:
            matrix = self._paired(pair)
            if matrix is not None:
                pairs[pair] = matrix
        return completed(
            plan, filling, known._replace(pairs=pairs), self._seen
        ).composite

    def _read(self, picture: str) -> Photo:
        path = self._files[picture]
        with path.open("rb") as file:
            return self._photo(picture, name_from_file(path.name), file)

    def _photo(self, picture: str, name: str, file: BinaryIO) -> Photo:
        digest = hashlib.file_digest(file, "sha256").hexdigest()  # type: ignore[arg-type]
        file.seek(0)
        photo = Photo(picture, digest, name, build_pyramid(read_picture(file)))
        self._photos[picture] = photo
        return photo

    def _staying(self, name: str) -> PhotoFacts:
        """Return what is known of a picture that stays in the plan."""
        data = self._packed_file(self._packed.plan.pictures[name])
        photo = self._photo(STAYS + name, name_from_file(name), io.BytesIO(data))
        return facts_of(photo, AskedPhoto(), Glances(), None)

    def _keep_matte(self, name: str, level: int) -> None:
        file = self._packed_file(name)
        self._mattes[name] = _Matte(file, decode_matte(file), level)

    def _packed_file(self, sha256: str) -> bytes:
        """Return what stays in the plan.

        Raises
        ------
        PlanRefusedError
            It is missing.
        """
        found = self._packed.files.get(sha256)
        if found is None:
            raise PlanRefusedError(INCOMPLETE)
        return found

    def _original(self, picture: str) -> Iterator[bytes]:
        """Yield the file of a picture, piece by piece."""
        if picture not in self._files:
            name = picture.removeprefix(STAYS)
            yield self._packed_file(self._packed.plan.pictures[name])
            return
        with self._files[picture].open("rb") as file:
            while piece := file.read(2**20):
                yield piece

    def _cut(self, photo: Photo, way: CutWay) -> FoundCut | None:
        cut = Cut.begun(self._tools.networks, photo.pyramid, CutRequest(way=way))
        try:
            matte, level = cut.matte()
        except NoSubjectError:
            self.sayings.append(f"Nothing stands out in {photo.name}; it stays whole.")
            return None
        file = encode_matte(matte)
        name = hashlib.sha256(file).hexdigest()
        self._mattes[name] = _Matte(file, matte, level)
        return FoundCut(matte=name, level=level)

    def _matte(self, name: str) -> MatteU8:
        return self._mattes[name].pixels

    def _paired(self, pair: tuple[str, str]) -> MatrixF64 | None:
        moving, fixed = (self._photos[one] for one in pair)
        try:
            found = aligned(moving.pyramid, fixed.pyramid, MapKind.SIMILAR, Silent())
        except NotAlikeError:
            self.sayings.append(
                f"{moving.name} and {fixed.name} have too little in common to be lined "
                "up; the one lies over the other."
            )
            return None
        return found.matrix

    def _measured(self, words: Words) -> Measure | None:
        fonts = self._tools.fonts
        setting = words.setting
        lenders = fonts.lenders_for(setting.fonts[0], setting.text, fonts.face)
        refs = (setting.fonts[0], *lenders)
        words = with_fields(words, setting=with_fields(setting, fonts=refs))
        return measured(words, self._faces(ref.id for ref in refs))

    def _faces(self, names: Iterator[str]) -> dict[str, Face]:
        found = ((name, self._tools.fonts.face(name)) for name in names)
        return {name: face for name, face in found if face is not None}

    def _seen(self, part: Composite, pile: tuple[Layer, ...]) -> PixelsU8:
        view = whole_view(part, LOOKED_AT, tallest=LOOKED_AT)
        shown = with_fields(part, layers=(*pile, *part.layers))
        return render(part, self._assets(shown), view, pile=pile)

    def _assets(self, composite: Composite) -> Assets:
        needed = all_needed(composite)
        pyramids: dict[str, Pyramid] = {
            name: self._photos[name].pyramid for name in needed.pictures
        }
        mattes = {
            part.raster: Raster(self._mattes[part.matte].pixels, part.share)
            for part in needed.mattes
        }
        rasters = {
            part.raster: part.raster_of(pyramids[part.picture])
            for part in needed.rasters
        }
        paintings = painted_by(self._packed.strokes, needed.paintings)
        mended = {
            one.name: mended_copy(one, pyramids[one.picture]) for one in needed.mended
        }
        assets: Assets = {**pyramids, **mended, **mattes, **rasters, **paintings}
        own = {one.name: own_pyramid(one, assets) for one in needed.own_colors}
        assets = {**assets, **own, **self._faces(iter(needed.fonts))}
        return {**assets, **laid_patches(needed.mended_places, assets)}


def _require_known(plan: Plan, put: PutIn) -> None:
    """Require that a plan has all the slots, words and choices that are named.

    Raises
    ------
    ServiceError
        It has not.
    """
    choices = {one.name: {way.name for way in one.options} for one in plan.choices}
    for what, named, known in (
        ("slot", put.photos, [slot.name for slot in plan.slots]),
        ("words", put.words, [one.name for one in plan.words]),
        ("choice", put.choices, list(choices)),
    ):
        for name in named:
            if name not in known:
                there = ", ".join(known) or "none"
                message = f"{plan.title} has no {what} called {name}; it has {there}"
                raise ServiceError(message)
    for name, way in put.choices.items():
        if way not in choices[name]:
            there = ", ".join(sorted(choices[name]))
            message = f"{name} is one of {there}; got {way}"
            raise ServiceError(message)


def _paths(put: PutIn) -> dict[Path, None]:
    return dict.fromkeys(path for paths in put.photos.values() for path in paths)


def _cut_anew(plan: Plan) -> Plan:
    """Return a plan that cuts out all photos of its slots anew: no matte is here."""
    slots = tuple(with_fields(slot, made_with=None) for slot in plan.slots)
    return with_fields(plan, slots=slots)
