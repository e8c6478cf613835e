"""The network: an encoder and a decoder joined level by level (U-Net: Ronneberger, Fischer & Brox, MICCAI 2015)."""

from __future__ import annotations

import torch
from torch import nn

from ypsicline.core.capture.piece_net import CHANNELS

__all__ = ["PieceNet"]

WIDTHS = (32, 48, 64, 80, 96)
FINE = 16


def _block(before: int, after: int) -> nn.Sequential:
    layers: list[nn.Module] = []
    for first in (before, after):
        layers += [nn.Conv2d(first, after, 3, padding=1, bias=False), nn.BatchNorm2d(after), nn.ReLU(inplace=True)]
    return nn.Sequential(*layers)


class PieceNet(nn.Module):
    """(k, 7, rows, columns) in, logits of piece and of shadow (k, 2, rows, columns) out; sides in multiples of 32.

    All but the first and the last steps work at half the view's resolution and below.
    """

    def __init__(self) -> None:
        super().__init__()
        self.stem = nn.Sequential(
            nn.Conv2d(CHANNELS, WIDTHS[0], 4, 2, 1, bias=False), nn.BatchNorm2d(WIDTHS[0]), nn.ReLU(inplace=True)
        )
        self.down = nn.ModuleList(_block(a, b) for a, b in zip((WIDTHS[0], *WIDTHS[:-1]), WIDTHS, strict=True))
        self.up = nn.ModuleList(_block(a + b, a) for a, b in zip(WIDTHS[:-1], WIDTHS[1:], strict=True))
        self.pool = nn.MaxPool2d(2)
        self.grow = nn.Upsample(scale_factor=2, mode="nearest")
        self.deep = _block(WIDTHS[-1], WIDTHS[-1])
        self.whole = nn.ConvTranspose2d(WIDTHS[0], FINE, 2, 2)
        self.last = nn.Sequential(
            nn.Conv2d(FINE + CHANNELS, FINE, 3, padding=1), nn.ReLU(inplace=True), nn.Conv2d(FINE, 2, 3, padding=1)
        )

    def forward(self, view: torch.Tensor) -> torch.Tensor:
        x = self.stem(view)
        levels = []
        for k, block in enumerate(self.down):
            x = block(x if k == 0 else self.pool(x))
            levels.append(x)
        x = x + self.deep(x)
        for block, beside in zip(reversed(self.up), reversed(levels[:-1]), strict=True):
            x = block(torch.cat([beside, self.grow(x)], dim=1))
        return self.last(torch.cat([self.whole(x), view], dim=1))
