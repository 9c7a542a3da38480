"""A figure beside its target."""

from dataclasses import dataclass, replace
from statistics import median
from typing import Literal


@dataclass(frozen=True, slots=True)
class Row:
    """`value` in `unit`; `required` and `aim` are what is wanted, `better` says which way."""

    name: str
    value: float
    unit: str
    required: float
    aim: float
    better: Literal["more", "less"]
    note: str = ""
    spread: float | None = None
    """How far apart the runs were that `value` is the median of, as a share of it; None if there was one."""

    @property
    def verdict(self) -> str:
        def reached(target: float) -> bool:
            return self.value >= target if self.better == "more" else self.value <= target

        return "aim" if reached(self.aim) else "ok" if reached(self.required) else "MISSED"


def middle(runs: list[Row]) -> Row:
    """The run in the middle of several of one row, with their spread."""
    ranked = sorted(runs, key=lambda row: row.value)
    row = ranked[len(ranked) // 2]
    apart = ranked[-1].value - ranked[0].value
    return replace(row, spread=apart / row.value if row.value else 0.0)


def table(rows: list[Row]) -> str:
    """All rows as text."""
    lines = [f"{'what':58} {'measured':>10}  {'required':>9} {'aim':>8}  "]
    for row in rows:
        sign = "≥" if row.better == "more" else "≤"
        lines.append(
            f"{row.name:58} {row.value:10.3g}  {sign + f'{row.required:g}':>9} {sign + f'{row.aim:g}':>8} {row.unit:8} {row.verdict:6} "
            f"{'' if row.spread is None else f'±{50 * row.spread:.0f} % '}{row.note}"
        )
    return "\n".join(lines)


def percentile(values: list[float], share: float) -> float:
    """The value that `share` of the values do not exceed."""
    return sorted(values)[min(len(values) - 1, int(share * len(values)))]


__all__ = ["Row", "median", "middle", "percentile", "table"]
