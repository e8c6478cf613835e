"""The foot of a point on an edge that is led straight on at both ends."""

from __future__ import annotations

import numpy as np
import scipy

from ypsicline.core.geometry.edges import Array, Edge, circle_of, derivatives_at, parameters, points_at, tangent_at

__all__ = ["feet_on", "nearest_parameters"]

_EVEN_STATIONS = 129
_NEWTON_STEPS = 4
_CLOSE_ENOUGH = 1e-13


def feet_on(edge: Edge, points: Array) -> tuple[Array, Array]:
    """Of each point (n, 2) its foot (n, 2) on the edge, or on the straight line that leads it on beyond an end, and the
    unit normal to the left there (n, 2)."""
    t = nearest_parameters(edge, points)
    feet, (first, _) = points_at(edge, t), derivatives_at(edge, np.clip(t, 1e-6, 1 - 1e-6))
    along = first / np.maximum(np.hypot(first[:, 0], first[:, 1]), 1e-12)[:, None]
    for at, end, sign in ((0.0, edge.start, -1), (1.0, edge.end, 1)):
        direction = np.array(tangent_at(edge, at))
        beyond = (points - np.asarray(end)) @ direction
        outside = (t <= 0 if at == 0 else t >= 1) & (sign * beyond > 0)
        feet[outside] = np.asarray(end) + beyond[outside, None] * direction
        along[outside] = direction
    return feet, np.column_stack([-along[:, 1], along[:, 0]])


def nearest_parameters(edge: Edge, points: Array) -> Array:
    """Where on the edge the nearest place is: known outright on a line and an arc, by Newton's steps on a curve."""
    circle = circle_of(edge) if edge.kind == "arc" else None
    if circle:
        away = points - np.asarray(circle.centre)
        angle = (np.arctan2(away[:, 1], away[:, 0]) - circle.start_angle) * np.sign(circle.sweep)
        # between half of what is left of the circle before the start and half behind the end
        spare = np.pi - abs(circle.sweep) / 2
        return np.asarray(np.clip(((angle + spare) % (2 * np.pi) - spare) / abs(circle.sweep), 0, 1))
    if edge.kind != "curve":
        start, d = np.asarray(edge.start), np.asarray(edge.end) - np.asarray(edge.start)
        return np.asarray(np.clip((points - start) @ d / max(float(d @ d), 1e-12), 0, 1))
    # evenly spaced ones as well, for a spike may hide between those that the curve's bends ask for
    stations = np.union1d(parameters(edge, 0.1), np.linspace(0, 1, _EVEN_STATIONS))
    near = points_at(edge, stations)
    apart, first_guess = scipy.spatial.KDTree(near).query(points)
    t = stations[first_guess]
    nearest, least = t, apart**2
    for _ in range(_NEWTON_STEPS):
        gap = points_at(edge, t) - points
        first, second = derivatives_at(edge, t)
        slope = (first**2).sum(axis=1) + (gap * second).sum(axis=1)
        step = (gap * first).sum(axis=1) / np.where(slope > 1e-9, slope, np.inf)
        t = np.clip(t - step, 0, 1)
        now = ((points_at(edge, t) - points) ** 2).sum(axis=1)
        nearest, least = np.where(now <= least, t, nearest), np.minimum(now, least)
        if np.abs(step).max(initial=0) < _CLOSE_ENOUGH:
            break
    return np.asarray(nearest)
