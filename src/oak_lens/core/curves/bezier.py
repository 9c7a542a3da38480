"""The timing curve: a cubic Bézier from (0, 0) to (1, 1)."""


def cubic_bezier(x1: float, y1: float, x2: float, y2: float, x: float) -> float:
    """Height of the curve with control points (x1, y1) and (x2, y2) where its abscissa is `x`.

    Same meaning as CSS `cubic-bezier()` (CSS Easing Functions Level 1): x1 and x2 lie in [0, 1], so the
    abscissa rises with the parameter; y may leave [0, 1] (overshoot). `x` is clamped to [0, 1].

    >>> round(cubic_bezier(0.42, 0.0, 0.58, 1.0, 0.5), 9)
    0.5
    """
    if x <= 0.0:
        return 0.0
    if x >= 1.0:
        return 1.0
    cx, cy = 3.0 * x1, 3.0 * y1
    bx, by = 3.0 * (x2 - x1) - cx, 3.0 * (y2 - y1) - cy
    ax, ay = 1.0 - cx - bx, 1.0 - cy - by
    low, high, t = 0.0, 1.0, x
    for _ in range(64):
        error = ((ax * t + bx) * t + cx) * t - x
        if abs(error) < 1e-13:
            break
        if error > 0.0:
            high = t
        else:
            low = t
        slope = (3.0 * ax * t + 2.0 * bx) * t + cx
        newton = t - error / slope if slope > 1e-9 else -1.0
        # Newton converges fast but may leave the bracket where the curve is nearly upright.
        t = newton if low < newton < high else (low + high) / 2.0
    return ((ay * t + by) * t + cy) * t
