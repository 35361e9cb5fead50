"""One thread at a time reads headers of NumPy's files.

NumPy reads them as Python source. The parser of CPython 3.11 counts its depth for all
threads together, so that two at once fail now and then with a SystemError.
"""

from __future__ import annotations

from threading import Lock

reading_headers = Lock()
