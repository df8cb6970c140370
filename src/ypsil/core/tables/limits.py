"""How large the things may be that Ypsil takes in."""

MAX_UPLOAD_BYTES = 200 * 1024 * 1024
MAX_ROWS = 5_000_000
MAX_COLUMNS = 2_000
MAX_UNPACKED_BYTES = 1024**3
MAX_UNPACK_RATIO = 20
# Small files may unpack further than the ratio: a sheet of zeros does, and harms nobody.
RATIO_FREE_BYTES = 64 * 1024 * 1024
