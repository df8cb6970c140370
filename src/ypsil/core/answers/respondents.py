"""The people who gave any answer: what several answers of one person are taken of."""

from __future__ import annotations

from dataclasses import dataclass

import polars as pl

from ypsil.core.answers.groups import Group
from ypsil.core.answers.stacked import ROW
from ypsil.core.questions.model import Question

_COUNT, _WEIGHT, _SQUARES = "\x00respondents", "\x00respondents-weight", "\x00respondents-squares"
MORE_THAN_ALL = "More than one can apply to each, so the shares add up to more than 100%"


@dataclass(frozen=True, slots=True)
class Respondents:
    """How many people answered, in all and for each of the groups that they are taken within."""

    counted: pl.DataFrame
    keys: tuple[str, ...]
    people: int

    def shares(self, result: pl.DataFrame, question: Question) -> tuple[pl.DataFrame, list[str]]:
        """Turn the counts of answers into shares of respondents; say where these exceed 100%."""
        how: dict[str, object] = {"on": list(self.keys), "how": "left"} if self.keys else {"how": "cross"}
        result = result.join(self.counted, **how, maintain_order="left")  # type: ignore[arg-type]
        exceeds = False
        for index, measure in enumerate(question.measures):
            name = f"measure{index}"
            if measure.is_of_respondents:
                share = pl.when(pl.col(_WEIGHT) > 0).then(pl.col(name) / pl.col(_WEIGHT)).alias(name)
                result = result.with_columns(share, pl.col(_COUNT).alias(f"{name}-base"))
                sums = pl.col(name).sum().over(list(self.keys)) if self.keys else pl.col(name).sum()
                exceeds |= float(result.select(sums.max()).item() or 0) > 1 + 1e-9
            if measure.stat in ("count", "share"):
                effective = pl.when(pl.col(_SQUARES) > 0).then(pl.col(_WEIGHT) ** 2 / pl.col(_SQUARES))
                result = result.with_columns(
                    pl.col(_COUNT).alias(f"{name}-people"),
                    pl.col(_WEIGHT).alias(f"{name}-people_weight"),
                    effective.alias(f"{name}-people_effective"),
                )
        return result.drop(_COUNT, _WEIGHT, _SQUARES), [MORE_THAN_ALL] if exceeds else []


def respondents_of(rows: pl.DataFrame, groups: list[Group], question: Question) -> Respondents | None:
    """Return who answered, where a measure is taken of them or answers of theirs are counted; ``rows`` have their keys,
    lists not yet taken apart.

    Where answers are lists, people are counted within the other groups; else within all groups but the first.
    """
    gave_several = any(group.column.several is not None for group in groups)
    if not gave_several and not any(measure.is_of_respondents for measure in question.measures):
        return None
    for group in groups:
        key = pl.col(group.key)
        rows = rows.filter(key.is_not_null() & (key.list.len() > 0) if group.explode else key.is_not_null())
    has_lists = any(group.explode for group in groups)
    inner = groups if has_lists or gave_several else groups[1:]
    keys = tuple(group.key for group in inner if not group.explode and group.column.several is None)
    if ROW in rows.columns:
        # Of columns below each other, each person is counted once.
        rows = rows.unique([ROW, *keys], maintain_order=True)
    weight = pl.col(question.weight or "").cast(pl.Float64)
    sums = [
        pl.len().cast(pl.Int64).alias(_COUNT),
        (weight.sum() if question.weight else pl.len().cast(pl.Float64)).alias(_WEIGHT),
        ((weight**2).sum() if question.weight else pl.len().cast(pl.Float64)).alias(_SQUARES),
    ]
    counted = rows.group_by(list(keys)).agg(sums) if keys else rows.select(sums)
    return Respondents(counted, keys, rows.height)
