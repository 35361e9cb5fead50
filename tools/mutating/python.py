"""Breaks of the core, the services and the web: keys, copies, guards, drafts first."""

from __future__ import annotations

from tools.mutating.kinds import of

CORE, SERVICES, WEB = (
    "src/glyphaneme/core/",
    "src/glyphaneme/services/",
    "src/glyphaneme/",
)

PYTHON = [
    *of(
        "render/following.py",
        "tests/core/test_following.py tests/core/test_mask_passes.py",
        (
            "return Followed(shown, tuple(others.values()))",
            "return Followed(shown, ())",
        ),
        ("names = set(needed_by(inside).names)", "names = set(needed_by([]).names)"),
        (
            "names.update(one.name for one in mended_places_in(layers, pile, on))",
            "names.update(())",
        ),
        root=CORE,
    ),
    *of(
        "render/passes.py",
        "tests/core/test_following.py tests/core/test_mask_passes.py "
        "tests/core/test_effects.py tests/core/test_area_tones.py",
        (
            '("pile", found, tones, self._view, lying, averaged)',
            '("pile", found, tones, lying, averaged)',
        ),
        (
            '("effect", found, effect, self._view, lying, self.canvas)',
            '("effect", found, self._view, lying, self.canvas)',
        ),
        ('("sheet", found, lying, view)', '("sheet", found, view)'),
        ("key = (mask, to_mask.tobytes())", "key = to_mask.tobytes()"),
        root=CORE,
    ),
    *of(
        "render/sheets.py",
        "tests/core/test_weighed.py tests/core/test_following.py",
        ("return before() is read", "return True"),
        ("return self.made.nbytes + ENTRY", "return self.made.nbytes"),
        root=CORE,
    ),
    *of(
        "render/mended_places.py",
        "tests/core/test_following.py tests/core/test_mending_layers.py",
        ("looked_at = looked_at or looks_around(layers[at])", "looked_at = False"),
        (
            "before = [earlier for box, earlier in filled if box.meets(around)]",
            "before: list[str] = []",
        ),
        root=CORE,
    ),
    *of(
        "render/caching.py",
        "tests/core/test_caching.py tests/core/test_following.py "
        "tests/core/test_weighed.py",
        ("return alike and one.others == other.others", "return alike"),
        ("if same is None or same.others != seen.others:", "if same is None:"),
        (
            "key = (picture, more, composite.canvas, averaged)",
            "key = (picture, more, averaged)",
        ),
        ("scene if scene.size <= self._budget else NO_SCENE", "scene"),
        ("if beneath > same:", "if beneath > same + 1:"),
        root=CORE,
    ),
    *of(
        "weighed.py",
        "tests/core/test_weighed.py tests/core/test_caching.py",
        ("lambda value: min(weigh(value), limit)", "weigh"),
        ("if is_gone(one)]", "if not is_gone(one)]"),
        root=CORE,
    ),
    *of(
        "document/reading.py",
        "tests/core/test_following.py tests/core/test_mask_passes.py",
        ("if path is not None and layer_id not in found:", "if path is not None:"),
        ("waiting += _read_at_work(path[-1])", "pass"),
        ("> MAX_LAYER_PARTS:", ">= MAX_LAYER_PARTS:"),
        ("> MAX_IN_A_ROW + 1:", "> MAX_IN_A_ROW + 20:"),
        root=CORE,
    ),
    *of(
        "mask/raster.py",
        "tests/core/test_threads.py tests/core/test_weighed.py",
        ("return self._values[0].nbytes * 4", "return self._values[0].nbytes"),
        (
            "and min(self._at(halvings).shape) >= 2 * SMALLEST_SIDE",
            "and min(self._at(halvings).shape) >= 40 * SMALLEST_SIDE",
        ),
        root=CORE,
    ),
    *of(
        "mask/paintings.py",
        "tests/core/test_painting.py tests/core/test_threads.py "
        "tests/core/test_weighed.py",
        ("return dict(self._levels)", "return {0: self._levels[0]}"),
        ("under is self.under", "True"),
        ("redone.update(before.last)", "pass"),
        root=CORE,
    ),
    *of(
        "edits/merging.py",
        "tests/core/test_merging.py",
        ("return length", "return 0"),
        ("neighbour + 1", "neighbour"),
        ("if start is None or lying !=", "if start is None and lying !="),
        root=CORE,
    ),
    *of(
        "edits/base.py",
        "tests/services/test_editing.py",
        ("{self.listed: merged(before, wanted, after)}", "{self.listed: wanted}"),
        root=CORE,
    ),
    *of(
        "edits/copying.py",
        "tests/core/test_edits.py tests/core/test_groups.py",
        ("lambda _: (original, copy)", "lambda _: (copy, original)"),
        ("locked=False,", "locked=original.locked,"),
        ("copy = _with_new_ids(copy)", "pass"),
        root=CORE,
    ),
    *of(
        "document/naming.py",
        "tests/services/test_layered.py tests/core/test_stored.py",
        ("UNHOLDABLE.sub(REPLACED, name)", "name"),
        root=CORE,
    ),
    *of(
        "codecs/reading.py",
        "tests/codecs/test_reading.py",
        ("if _orientation(image) in SIDEWAYS:", "if False:"),
        ("if image.format in TURNED_BY_DECODERS:", "if False:"),
        ("if width * height > MAX_PIXELS or", "if"),
        root=WEB,
    ),
    *of(
        "codecs/drafting.py",
        "tests/codecs/test_drafting.py",
        ("draft.replace(place)", "pass"),
        ("draft.stat().st_mtime < before", "True"),
        root=WEB,
    ),
    *of(
        "working.py",
        "tests/services/test_working.py tests/web/test_full_disks.py",
        ("if attempt > MAX_ATTEMPTS:", "if attempt > MAX_ATTEMPTS + 1:"),
        ("if is_no_room(cause):", "if False:"),
        (
            "session, self._job_id, attempt=self._attempt, **changes",
            "session, self._job_id, **changes",
        ),
        root=SERVICES,
    ),
    *of(
        "editing.py",
        "tests/services/test_editing.py tests/services/test_painting.py",
        ("edit=brought, asked=edit)", "edit=edit)"),
        ("None if asked == edit else asked", "None"),
        (
            "elif project.head_id == came_from and to != came_from:",
            "elif to != came_from:",
        ),
        ("follows=after if begins else None", "follows=after"),
        root=SERVICES,
    ),
    *of(
        "painting.py",
        "tests/services/test_painting.py",
        (
            "visit.painted[named] = studio.drafts.put(named, underway.painting)",
            "studio.drafts.put(named, underway.painting)",
        ),
        (
            "if last is not None and strokes_counted(visit.session, last) != strokes:",
            "if False:",
        ),
        root=SERVICES,
    ),
    *of(
        "projects.py",
        "tests/services/test_editing.py tests/web/test_http.py "
        "tests/web/test_versions.py",
        ("elif row.begun_as is not None and row.begun_as != asked:", "elif False:"),
        ("    if added:\n        note_uses", "    if True:\n        note_uses"),
        root=SERVICES,
    ),
    *of(
        "room.py",
        "tests/web/test_full_disks.py",
        ("return error.errno in FULL | CLOSED", "return error.errno in FULL"),
        root=SERVICES,
    ),
    *of(
        "web/guards.py",
        "tests/web/test_http.py tests/web/test_extremes.py",
        ("and _place(origin) != _place(request.host_url)", "and False"),
        ("if not is_served(request.host, allowed_hosts):", "if False:"),
        ("frame-ancestors 'none'", "frame-ancestors *"),
        root=WEB,
    ),
    *of(
        "render/differing.py",
        "tests/core/test_differing.py",
        ("where=totals > 0)", "where=totals > 0) * totals"),
        ("if held.max() >= HOLDS * total:", "if held.max() > 0:"),
        ("SHARES[least <= SHARES]", "SHARES"),
        ("np.clip(across / width - share / 2, 0, 1 - share)", "inner.left / width"),
        root=CORE,
    ),
    *of(
        "place/beside.py",
        "tests/core/test_beside.py",
        ("left = (columns - in_row) / 2", "left = 0"),
        ("proportion * rows / columns", "rows / columns"),
        ("place % SHIFTS * step", "0 * step"),
        ("        if self.place >= self.count:", "        if False:"),
        root=CORE,
    ),
    *of(
        "showing.py",
        "tests/web/test_http.py",
        ("cv2.norm(tile, now, cv2.NORM_INF) <= UNSEEN", "True"),
        ("scale=view.scale / window.width,", "scale=view.scale,"),
        ("x=whole.at(0, window.left),", "x=whole.left,"),
        root=SERVICES,
    ),
    *of(
        "words/shaping.py",
        "tests/core/test_words.py",
        ("joins = setting.ligatures and not setting.letter_gap", "joins = True"),
        (
            'buffer.direction = "rtl" if run.level % 2 else "ltr"',
            'buffer.direction = "ltr"',
        ),
        ("if one.cluster != after else one", "if True else one"),
        root=CORE,
    ),
    *of(
        "words/lines.py",
        "tests/core/test_words.py",
        ("width -= setting.letter_gap", "width -= 0"),
        ("if line.is_last or not line.spaces or more <= 0:", "if not line.spaces:"),
        ("if reached[after] - reached[begin] > room:", "if False:"),
        ("Align.MIDDLE: 0.5", "Align.MIDDLE: 0.0"),
        root=CORE,
    ),
    *of(
        "words/coverage.py",
        "tests/core/test_words.py",
        ("return pixels[::-1, : tile.width]", "return pixels[:, : tile.width]"),
        ("-tile.bottom, tile.width", "-tile.top, tile.width"),
        root=CORE,
    ),
    *of(
        "words/contours.py",
        "tests/core/test_words.py",
        (
            "how = pathops.PathOp.UNION if filled",
            "how = pathops.PathOp.UNION if not filled",
        ),
        ("if clump and not meets:", "if clump:"),
        ("if contour.side is Side.MIDDLE:", "if True:"),
        root=CORE,
    ),
    *of(
        "words/forms.py",
        "tests/core/test_words.py",
        ("math.radians(angle)", "math.radians(2 * angle)"),
        ("away = radius + (ground.baseline - baseline)", "away = -radius"),
        root=CORE,
    ),
    *of(
        "edits/lettering.py",
        "tests/core/test_lettering.py",
        ("moved = stays - new @", "moved = stays - old @"),
        ("name=layer.name if is_named", "name=layer.name if True"),
        ("Align.RIGHT: 1.0, Align.MIDDLE: 0.5", "Align.RIGHT: 0.0, Align.MIDDLE: 0.5"),
        ("if getattr(wanted, name) != getattr(before, name)", "if True"),
        root=CORE,
    ),
    *of(
        "render/lettering.py",
        "tests/core/test_lettering.py",
        ("if line and beneath:", "if line and not beneath:"),
        ("        axes[0, 2] += 0.5\n", ""),
        root=CORE,
    ),
    *of(
        "fonts.py",
        "tests/web/test_fonts.py",
        ("row.on_offer = False", "row.on_offer = True"),
        ("if may_travel(visit, name):", "if True:"),
        (
            "fonts = (chosen, *_lenders(visit, chosen, setting.text))",
            "fonts = (chosen,)",
        ),
        root=SERVICES,
    ),
]
