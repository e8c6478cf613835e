"""Train the network and write its weights for OpenCV.

    python -m training.train --minutes 60 --out ypsicline/core/capture/piece_net.onnx

Painters on other processes add views to a pool while the network learns from it. The seeds are fixed; how
many views are painted in the time depends on the machine, so another run's weights differ in detail.
"""

from __future__ import annotations

import argparse
import multiprocessing as mp
import queue
import time
from pathlib import Path

import cv2
import numpy as np
import torch
from numpy.typing import NDArray
from torch import nn

from training.net import PieceNet
from training.split_joins import split_joins
from training.views import View, paint_view
from ypsicline.core.capture.piece_net import as_input

SIDE, BATCH, POOL, FIRST = 128, 12, 40_000, 800
# how often a view is learnt from, turned and recoloured, before it has paid for its painting
USES = 2.5


def _paint(seed: int, out: mp.Queue[list[View]]) -> None:
    cv2.setNumThreads(1)
    k = 0
    while True:
        batch = []
        while len(batch) < 8:
            rng = np.random.default_rng((seed, k))
            k += 1
            try:
                batch.append(paint_view(rng, SIDE))
            except (ValueError, IndexError, ZeroDivisionError, OverflowError):
                continue  # an outline by lot that fell apart
        out.put(batch)


def _sample(rng: np.random.Generator, view: View) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    """Input and target, turned, mirrored and recoloured."""
    pixels = view.pixels[..., rng.permutation(3)] if rng.random() < 0.3 else view.pixels
    if rng.random() < 0.1:
        pixels = 255 - pixels
    given = as_input(pixels, view.sheets, view.seen, view.prior, view.taps)
    wanted = np.stack([view.piece, view.shadow]).astype(np.float32) / 255
    quarter = int(rng.integers(4))
    given, wanted = np.rot90(given, quarter, (1, 2)), np.rot90(wanted, quarter, (1, 2))
    if rng.random() < 0.5:
        given, wanted = given[:, :, ::-1], wanted[:, :, ::-1]
    return given.copy(), wanted.copy()


def loss_of(said: torch.Tensor, wanted: torch.Tensor, seen: torch.Tensor) -> torch.Tensor:
    """Cross-entropy, with rims counted more, and the overlap of the piece (Dice)."""
    target = wanted[:, :1]
    rim = nn.functional.max_pool2d(target, 5, 1, 2) - (1 - nn.functional.max_pool2d(1 - target, 5, 1, 2))
    weight = seen * (1 + 2 * rim)
    entropy = nn.functional.binary_cross_entropy_with_logits(said[:, :1], target, reduction="none")
    piece = (entropy * weight).sum() / weight.sum()
    dark = nn.functional.binary_cross_entropy_with_logits(said[:, 1:], wanted[:, 1:], reduction="none")
    shadow = (dark * seen).sum() / seen.sum()
    share = torch.sigmoid(said[:, :1]) * seen
    both = (share * target).sum(dim=(1, 2, 3))
    dice = 1 - (2 * both + 20) / (share.sum(dim=(1, 2, 3)) + target.sum(dim=(1, 2, 3)) + 20)
    return piece + 0.5 * dice.mean() + 0.15 * shadow


def export(net: PieceNet, out: Path) -> None:
    net.eval()
    torch.onnx.export(
        net, (torch.zeros(1, 7, SIDE, SIDE),), str(out), input_names=["view"], output_names=["said"], dynamo=False,
        opset_version=13, dynamic_axes={key: {0: "views", 2: "rows", 3: "columns"} for key in ("view", "said")},
    )  # fmt: skip
    split_joins(out)
    net.train()


def main() -> None:
    ap = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    ap.add_argument("--minutes", type=float, default=60)
    ap.add_argument("--out", type=Path, required=True)
    ap.add_argument("--painters", type=int, default=1)
    ap.add_argument("--threads", type=int, default=2)
    ap.add_argument("--start", type=Path, help="a state to go on from")
    ap.add_argument("--state", type=Path, default=Path("piece_net.pt"))
    ap.add_argument("--seed", type=int, default=1)
    ap.add_argument("--peak", type=float, default=3e-3, help="the highest learning rate")
    options = ap.parse_args()
    torch.manual_seed(options.seed)
    torch.set_num_threads(options.threads)
    rng = np.random.default_rng(options.seed)
    views: mp.Queue[list[View]] = mp.Queue(maxsize=16)
    painters = [
        mp.Process(target=_paint, args=(100 * options.seed + k, views), daemon=True) for k in range(options.painters)
    ]
    for p in painters:
        p.start()
    net = PieceNet().to(memory_format=torch.channels_last)
    if options.start:
        net.load_state_dict(torch.load(options.start))
    mean = torch.optim.swa_utils.AveragedModel(
        net, multi_avg_fn=torch.optim.swa_utils.get_ema_multi_avg_fn(0.997), use_buffers=True
    )
    optimiser = torch.optim.AdamW(net.parameters(), lr=options.peak, weight_decay=1e-4)
    pool: list[View] = []
    while len(pool) < FIRST:
        pool += views.get()
    started, step, running, told = time.time(), 0, 0.0, time.time()
    while (share := (time.time() - started) / 60 / options.minutes) < 1:
        try:
            while len(pool) < FIRST + step * BATCH / USES:
                pool += views.get_nowait()
        except queue.Empty:
            pass
        del pool[: max(0, len(pool) - POOL)]
        rate = options.peak * min(1.0, (step + 1) / 150) * (0.5 + 0.5 * np.cos(np.pi * share) + 0.01)
        for group in optimiser.param_groups:
            group["lr"] = rate
        pairs = [_sample(rng, pool[int(k)]) for k in rng.integers(0, len(pool), BATCH)]
        given = torch.from_numpy(np.stack([p[0] for p in pairs])).to(memory_format=torch.channels_last)
        wanted = torch.from_numpy(np.stack([p[1] for p in pairs]))
        loss = loss_of(net(given), wanted, given[:, 4:5])
        optimiser.zero_grad(set_to_none=True)
        loss.backward()
        nn.utils.clip_grad_norm_(net.parameters(), 1.0)
        optimiser.step()
        mean.update_parameters(net)
        step += 1
        running = 0.98 * running + 0.02 * loss.item() if step > 1 else loss.item()
        if step == 20 or step % 200 == 0:
            print(
                f"{(time.time() - started) / 60:.1f} min, step {step}, {len(pool)} views, loss {running:.4f}",
                flush=True,
            )
        if time.time() - told > 240:
            told = time.time()
            torch.save(mean.module.state_dict(), options.state)
            export(mean.module, options.out)
    torch.save(mean.module.state_dict(), options.state)
    export(mean.module, options.out)
    for p in painters:
        p.terminate()
    print(f"{step} steps, loss {running:.4f}")


if __name__ == "__main__":
    main()
