"""Whether words can be read on their ground."""

# WCAG 2.2, 1.4.3: large text is read from this contrast on.
LEAST_CONTRAST = 3.0


def contrast(one: str, other: str) -> float:
    """Contrast of two colours, 1 to 21 (WCAG 2.2, relative luminance)."""
    first, second = sorted((_luminance(one), _luminance(other)), reverse=True)
    return (first + 0.05) / (second + 0.05)


def _luminance(colour: str) -> float:
    parts = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    linear = [part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]
