"""One HTML file with two pictures and a bar between them that is dragged.

It works without a network, under its own Content-Security-Policy: what it runs and how
it looks are named by their hashes, and its pictures lie in it.
"""

from __future__ import annotations

import base64
import hashlib
from html import escape
from pathlib import Path
from typing import Final, NamedTuple

HERE: Final = Path(__file__).parent


class Shown(NamedTuple):
    """One of the two pictures."""

    data: bytes
    media_type: str
    caption: str


def comparison_page(
    before: Shown, after: Shown, size: tuple[int, int], title: str
) -> str:
    """Return the page.

    Parameters
    ----------
    before, after : Shown
        Files that browsers show, of the same size.
    size : (int, int), pixels
        Width and height of each.
    title : str
        What the page is called.
    """
    style = (HERE / "page.css").read_text("utf-8")
    script = (HERE / "page.js").read_text("utf-8")
    sides = f'width="{size[0]}" height="{size[1]}"'
    policy = (
        f"default-src 'none'; img-src data:; style-src {_hash(style)}; "
        f"script-src {_hash(script)}; base-uri 'none'; form-action 'none'"
    )
    first, second = escape(before.caption), escape(after.caption)
    label = f"How much of “{first}” is seen, beside “{second}”"
    return f"""<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="{policy}">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>{escape(title)}</title>
<style>{style}</style>
</head>
<body>
<main>
<div class="pair">
<img class="after" src="{_address(after)}" {sides} alt="{second}">
<img class="before" src="{_address(before)}" {sides} alt="{first}">
<span class="bar" aria-hidden="true"></span>
<input type="range" min="0" max="100" value="50" step="1" aria-label="{label}">
</div>
<p class="captions"><span>{first}</span><span>{second}</span></p>
</main>
<script>{script}</script>
</body>
</html>
"""


def _hash(text: str) -> str:
    digest = base64.b64encode(hashlib.sha256(text.encode()).digest()).decode()
    return f"'sha256-{digest}'"


def _address(shown: Shown) -> str:
    data = base64.b64encode(shown.data).decode()
    return f"data:{shown.media_type};base64,{data}"
