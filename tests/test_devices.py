"""The simulated meter and sky, asked as real ones would be."""

from __future__ import annotations

import socket
import threading
from datetime import UTC, datetime, timedelta

import pytest

from steady_tide.core.quantities.errors import DeviceSilent
from steady_tide.devices.light_meter import LightMeter
from steady_tide.standins.light_meter import simulated_meter
from steady_tide.standins.sky import SimulatedSky


def test_readings_scatter_about_the_scene() -> None:
    with simulated_meter(lux=5000.0, dropout=0.0) as meter:
        found = [meter.read() for _ in range(30)]
    lux = [reading.lux for reading in found]
    assert 4000 < min(lux) < max(lux) < 6000
    assert len(set(lux)) > 20
    assert all(reading.simulated and reading.at.tzinfo for reading in found)


def test_a_missed_line_is_asked_again_and_a_dead_meter_is_told() -> None:
    with simulated_meter(dropout=0.4, seed=3) as meter:
        patient = LightMeter(meter.host, meter.port, tries=12)
        assert all(patient.read().lux > 0 for _ in range(10))
    with simulated_meter(dropout=1.0) as meter, pytest.raises(DeviceSilent, match="does not answer"):
        LightMeter(meter.host, meter.port, patience_s=0.1).read()
    with pytest.raises(DeviceSilent, match="Check that the meter is on"):
        LightMeter(meter.host, meter.port, patience_s=0.1).read()


@pytest.mark.parametrize(
    "answer", [b"12000\n", b'{"lux": -5}\n', b'{"device": "x", "lux": 1e99}\n', b"{" * 9000, b"\n"]
)
def test_an_answer_that_is_no_reading_is_refused(answer: bytes) -> None:
    with socket.create_server(("127.0.0.1", 0)) as server:

        def serve() -> None:
            for _ in range(3):
                line, _ = server.accept()
                with line:
                    line.recv(64)
                    line.sendall(answer)

        threading.Thread(target=serve, daemon=True).start()
        with pytest.raises(DeviceSilent, match=r"no reading|does not answer"):
            LightMeter("127.0.0.1", server.getsockname()[1], patience_s=0.5).read()


def test_a_forecast_is_the_same_each_time_and_says_how_old_it_is() -> None:
    start = datetime.now(UTC).replace(minute=0) + timedelta(days=2)
    first, again = (SimulatedSky().forecast(52.06, 1.31, start, start + timedelta(days=1)) for _ in range(2))
    assert first.hours == again.hours
    assert len(first.hours) == 24
    assert timedelta(0) <= datetime.now(UTC) - first.made_at <= timedelta(hours=6)
    other = SimulatedSky().forecast(40.0, 1.31, start, start + timedelta(days=1))
    assert other.hours != first.hours


def test_a_sky_service_that_is_away_says_so() -> None:
    now = datetime.now(UTC)
    with pytest.raises(DeviceSilent, match="Choose the sky yourself"):
        SimulatedSky(away=True).forecast(52, 1, now, now + timedelta(days=1))
    with pytest.raises(DeviceSilent, match="so far away"):
        SimulatedSky().forecast(52, 1, now + timedelta(days=900), now + timedelta(days=901))
