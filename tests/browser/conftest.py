"""One running product for all browser tests, and pages that may not leave it."""

from __future__ import annotations

import os
from typing import TYPE_CHECKING, Any
from urllib.parse import urlsplit

import pytest

from glyphaneme.services.networks import LARGE, LIGHT
from tests.browser.hands import Hands
from tests.product import Product
from tests.tiny_network import write_network

if TYPE_CHECKING:
    from collections.abc import Iterator
    from pathlib import Path

    from playwright.sync_api import Browser, BrowserContext, Page

    from tests.databases import Databases

LOOPBACK = {"127.0.0.1", "localhost", ""}


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    arguments = [
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-dev-shm-usage",
        "--disable-gpu",
        "--disable-quic",
        "--disable-sync",
        "--font-render-hinting=none",
        "--force-color-profile=srgb",
        "--no-first-run",
    ]
    if os.geteuid() == 0:
        arguments.append("--no-sandbox")
    return {"executable_path": "/usr/bin/chromium", "args": arguments}


@pytest.fixture(scope="session")
def browser_context_args() -> dict[str, Any]:
    return {"viewport": {"width": 1280, "height": 800}, "reduced_motion": "reduce"}


@pytest.fixture(scope="session")
def shared_product(databases: Databases) -> Iterator[Product]:
    yield from running(databases)


@pytest.fixture
def own_product(databases: Databases) -> Iterator[Product]:
    """Return a product that the test may kill."""
    yield from running(databases)


def running(databases: Databases) -> Iterator[Product]:
    url = databases.prepared()
    product = Product(url)
    # Small ones, which tell red from blue: what the large ones see is tested elsewhere.
    for name in (LARGE, LIGHT):
        write_network(product.home / "models", name)
    product.start()
    yield product
    product.close()
    databases.drop(url)


@pytest.fixture(scope="session")
def lasting_context(
    browser: Browser, browser_context_args: dict[str, Any]
) -> Iterator[BrowserContext]:
    """One for all tests: a new one would read and compile the page's scripts anew."""
    context = browser.new_context(**browser_context_args)
    context.new_page()
    yield context
    context.close()


@pytest.fixture
def context(lasting_context: BrowserContext) -> Iterator[BrowserContext]:
    """Return a context in which nothing is open, and nothing kept of tests before."""
    [blank] = lasting_context.pages
    devtools = lasting_context.new_cdp_session(blank)
    forget = {"origin": "*", "storageTypes": "local_storage,indexeddb"}
    devtools.send("Storage.clearDataForOrigin", forget)
    yield lasting_context
    for page in lasting_context.pages:
        if page is not blank:
            page.close()
    devtools.detach()


@pytest.fixture
def watched_context(context: BrowserContext) -> Iterator[BrowserContext]:
    """Return a context that fails the test on strange requests and broken scripts."""
    strange: list[str] = []
    broken: list[str] = []

    def watch(page: Page) -> None:
        page.on("pageerror", lambda error: broken.append(str(error)))
        page.on(
            "request",
            lambda request: (
                urlsplit(request.url).hostname in (*LOOPBACK, None)
                or strange.append(request.url)
            ),
        )

    context.on("page", watch)
    yield context
    context.remove_listener("page", watch)
    assert strange == []
    assert broken == []


@pytest.fixture
def hands(watched_context: BrowserContext, shared_product: Product) -> Hands:
    return Hands(watched_context.new_page(), shared_product)


@pytest.fixture
def photo(demo_photos: Path) -> Any:
    return lambda name: demo_photos / f"{name}.jpg"
