"""Calculations: a small language for new columns, typed, and compiled to polars expressions."""

from ypsil.core.tables.calculation.compiling import Compiled, compile_calculation
from ypsil.core.tables.calculation.completing import Completion, complete
from ypsil.core.tables.calculation.functions import FUNCTIONS
from ypsil.core.tables.calculation.parsing import CalculationRefused, parse

__all__ = ["FUNCTIONS", "CalculationRefused", "Compiled", "Completion", "compile_calculation", "complete", "parse"]
