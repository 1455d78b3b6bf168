"""A light meter on the local network: one line asked, one line of JSON answered. See docs/light-meter.md."""

from __future__ import annotations

import json
import socket
from dataclasses import dataclass
from datetime import datetime

from pydantic import Field, ValidationError

from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import DeviceSilent
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.moments import Moment


class MeterReading(Frozen):
    """What a meter says."""

    device: str = Field(max_length=80)
    lux: float = Field(ge=0, le=2_000_000)
    at: Moment
    simulated: bool = False


@dataclass(frozen=True)
class LightMeter:
    """The way to a meter."""

    host: str
    port: int
    patience_s: float = 0.5
    tries: int = 3

    def read(self) -> MeterReading:
        """Take a reading.

        Returns it. A meter that misses a line is asked again. Raises DeviceSilent where it never answers,
        or answers what is no reading.
        """
        why = "it does not answer"
        for _ in range(self.tries):
            try:
                return self._ask()
            except (OSError, TimeoutError):
                why = "it does not answer"
            except (ValueError, ValidationError):
                why = "its answer is no reading"
        raise DeviceSilent(f"No reading: {why}. Check that the meter is on and near, and try again.")

    def _ask(self) -> MeterReading:
        with socket.create_connection((self.host, self.port), timeout=self.patience_s) as line:
            line.settimeout(self.patience_s)
            line.sendall(b"READ\n")
            said = b""
            while b"\n" not in said and len(said) < sizes.METER_ANSWER:
                more = line.recv(1024)
                if not more:
                    raise OSError("the meter hung up")
                said += more
        return MeterReading.model_validate(json.loads(said.partition(b"\n")[0]))


def reading_line(device: str, lux: float, at: datetime, simulated: bool) -> bytes:
    """The line that a meter answers. Returns bytes that end with a line feed."""
    told = {"device": device, "lux": round(lux, 2), "at": at.isoformat(), "simulated": simulated}
    return json.dumps(told).encode() + b"\n"
