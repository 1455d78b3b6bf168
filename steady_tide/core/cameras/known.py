"""What a person can read off a box: the few numbers from which much of a sheet follows."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from steady_tide.core.quantities.frozen import Frozen


class Known(Frozen):
    """What a person can read off a box or a data page, from which a sheet's numbers follow."""

    sensor_type: Annotated[str | None, Field(max_length=10, description="inch type of the sensor, such as 1/2.3")] = (
        None
    )
    sensor_width_mm: Annotated[float | None, Field(gt=1, le=60)] = None
    megapixels: Annotated[float | None, Field(gt=0.1, le=500, description="of the sensor or the largest still")] = None
    equivalent_mm: Annotated[
        float | None, Field(gt=5, le=600, description="focal length that would frame alike on 36 mm of film")
    ] = None
    battery_mah: Annotated[float | None, Field(gt=50, le=100_000)] = None
    battery_v: Annotated[float | None, Field(gt=1, le=60)] = None
    battery_hours: Annotated[float | None, Field(gt=0.05, le=48, description="of recording on one charge")] = None
