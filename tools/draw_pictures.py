"""Draw the demo's pictures: ``python tools/draw_pictures.py src/verse_tray/demo/pieces/pictures``."""

from __future__ import annotations

import math
import random
import sys
from pathlib import Path

from PIL import Image, ImageDraw

SCALE = 2  # drawn larger, then scaled down, for smooth edges


def canvas(width: int, height: int, colour: str) -> tuple[Image.Image, ImageDraw.ImageDraw]:
    image = Image.new("RGB", (width * SCALE, height * SCALE), colour)
    return image, ImageDraw.Draw(image)


def save(image: Image.Image, path: Path) -> None:
    small = image.resize((image.width // SCALE, image.height // SCALE), Image.Resampling.LANCZOS)
    small.quantize(64).save(path, optimize=True)


def rock(draw: ImageDraw.ImageDraw, chance: random.Random, width: int, height: int) -> None:
    for _ in range(160):
        x, y, r = chance.randrange(width), chance.randrange(height), chance.randrange(6, 26)
        tone = chance.choice(("#5f6a66", "#6d7772", "#7a837c", "#57615e"))
        draw.ellipse((x - r, y - r * 0.7, x + r, y + r * 0.7), fill=tone)


def anemone(path: Path) -> None:
    image, draw = canvas(520, 340, "#66716d")
    chance = random.Random(7)
    rock(draw, chance, image.width, image.height)
    draw.ellipse((140, 70, 900, 630), fill="#2f6a70")
    draw.ellipse((165, 92, 875, 606), fill="#3d858a")
    for ring, length, colour in ((0, 190, "#8e2a1d"), (1, 160, "#b53a26"), (2, 126, "#d1583a")):
        for step in range(26):
            turn = math.tau * (step + ring / 3) / 26
            x, y = 520 + math.cos(turn) * length, 345 + math.sin(turn) * length * 0.82
            draw.line((520, 345, x, y), fill=colour, width=16)
            draw.ellipse((x - 11, y - 11, x + 11, y + 11), fill=colour)
    draw.ellipse((455, 292, 585, 398), fill="#6d1f16")
    for _ in range(40):
        x, y = chance.randrange(image.width), chance.randrange(image.height)
        if (x - 520) ** 2 / 380**2 + (y - 350) ** 2 / 280**2 > 1.1:
            draw.polygon([(x - 12, y + 10), (x, y - 12), (x + 12, y + 10)], fill="#e4e2d6")
            draw.ellipse((x - 3, y - 2, x + 3, y + 4), fill="#6d6a60")
    save(image, path)


def gannet(path: Path) -> None:
    image, draw = canvas(144, 144, "#1f4a4d")
    draw.polygon([(20, 190), (150, 120), (268, 40), (210, 150), (262, 214), (150, 196)], fill="#f6f4ec")
    draw.polygon([(236, 62), (268, 40), (222, 124)], fill="#22262a")
    draw.ellipse((30, 160, 92, 216), fill="#f0d9a0")
    draw.polygon([(34, 180), (2, 196), (40, 204)], fill="#9fb4c0")
    draw.ellipse((48, 176, 58, 186), fill="#1b1b1b")
    save(image, path)


def frame(path: Path) -> None:
    image, draw = canvas(300, 200, "#6d7772")
    rock(draw, random.Random(3), image.width, image.height)
    draw.rectangle((120, 60, 480, 340), outline="#f2efe2", width=12)
    for step in range(1, 4):
        draw.line((120 + step * 90, 60, 120 + step * 90, 340), fill="#f2efe2", width=4)
        draw.line((120, 60 + step * 70, 480, 60 + step * 70), fill="#f2efe2", width=4)
    for x, y in ((200, 120), (330, 190), (420, 290), (250, 260)):
        draw.ellipse((x - 16, y - 12, x + 16, y + 12), fill="#c9a84b")
    save(image, path)


if __name__ == "__main__":
    folder = Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    anemone(folder / "beadlet-anemone.png")
    gannet(folder / "gannet.png")
    frame(folder / "frame-on-rock.png")
