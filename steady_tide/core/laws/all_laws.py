"""Every law, in the order in which they are told."""

from __future__ import annotations

from steady_tide.core.laws import dominance, lighting, monotony, purpose
from steady_tide.core.laws.law import Law

LAWS: tuple[Law, ...] = (*dominance.LAWS, *lighting.LAWS, *purpose.LAWS, *monotony.LAWS)
