"""A mode table as a manual has it."""

from __future__ import annotations

# Thirty modes.
TABLE = """Resolution\tFrame rate (fps)\tField of view\tStabilisation\tBit depth
5K (4:3)\t30, 25, 24\tWide, Straight\tStandard\t10
5K (16:9)\t60, 50, 30, 25, 24\tWide, Straight, Tight\tStandard, Strong\t10
4K (4:3)\t60, 50, 30, 25, 24\tWide, Straight\tStandard\t10
4K (16:9)\t120, 100\tWide, Straight\tStandard\t8
4K (16:9)\t60, 50, 30, 25, 24\tFisheye, Wide, Straight, Tight\tStandard, Strong, Strongest\t10
1440p\t240, 200\tWide, Straight\tStandard\t8
1080p\t240, 200\tWide, Straight\tStandard\t8
1080p\t120, 100, 60, 50, 30, 25\tFisheye, Wide, Straight, Tight\tStandard, Strong, Strongest\t8
"""
