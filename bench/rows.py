"""A figure beside its target."""

from dataclasses import dataclass
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

    @property
    def verdict(self) -> str:
        def reached(target: float) -> bool:
            return self.value >= target if self.better == "more" else self.value <= target

        return "aim" if reached(self.aim) else "ok" if reached(self.required) else "MISSED"


def table(rows: list[Row]) -> str:
    """All rows as text."""
    lines = [f"{'what':58} {'measured':>10}  {'required':>9} {'aim':>8}  "]
    for row in rows:
        sign = "≥" if row.better == "more" else "≤"
        lines.append(
            f"{row.name:58} {row.value:10.3g}  {sign + f'{row.required:g}':>9} {sign + f'{row.aim:g}':>8} {row.unit:8} {row.verdict:6} {row.note}"
        )
    return "\n".join(lines)


def percentile(values: list[float], share: float) -> float:
    """The value that `share` of the values do not exceed."""
    return sorted(values)[min(len(values) - 1, int(share * len(values)))]


__all__ = ["Row", "median", "percentile", "table"]
