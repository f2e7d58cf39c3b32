"""Text on a photograph, by the system's own recognition program where it is installed.

The program is Debian's package `tesseract-ocr`; without it this is off and says so. It runs apart,
with bounds on time and memory, and sees the picture alone.
"""

from __future__ import annotations

import shutil
import subprocess

PROGRAM = "tesseract"
TIMEOUT_S = 30.0
"""A photograph of twelve megapixels takes some seconds on a small computer [judgement]."""
MEMORY_KB = 2_000_000
BEGINNINGS = (b"\x89PNG\r\n\x1a\n", b"\xff\xd8\xff", b"RIFF")
"""How PNG, JPEG and WebP files begin."""


class NoRecognition(Exception):
    """The picture cannot be read; the text says why and what to do."""


def is_there() -> bool:
    """Whether the program is installed."""
    return shutil.which(PROGRAM) is not None


def text_of(picture: bytes) -> str:
    """The text on a picture, line by line. Raises NoRecognition."""
    program = shutil.which(PROGRAM)
    if program is None:
        raise NoRecognition(
            "This computer has no program that reads pictures. Install Debian's package "
            "tesseract-ocr on it, or type what stands on the label."
        )
    if not picture.startswith(BEGINNINGS):
        raise NoRecognition("This is no PNG, JPEG or WebP picture. Take a photograph of the label.")
    # A picture that unpacks to more than the bound ends the program, not the app.
    bounded = f'ulimit -v {MEMORY_KB}; exec "$0" "$@"'
    command = ["/bin/sh", "-c", bounded, program, "stdin", "stdout", "--psm", "6"]
    try:
        done = subprocess.run(
            command, input=picture, capture_output=True, timeout=TIMEOUT_S, check=False
        )
    except subprocess.TimeoutExpired:
        raise NoRecognition(
            f"Reading the picture took longer than {TIMEOUT_S:.0f} s. Crop it to the label."
        ) from None
    text = done.stdout.decode("utf-8", "replace").strip()
    if done.returncode != 0 or not text:
        raise NoRecognition(
            "No text was found on the picture. Hold the camera straight above the label, in even "
            "light, and fill the picture with it."
        )
    return text
