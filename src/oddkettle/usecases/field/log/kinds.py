"""What the log can hold: one record a kind, with its form, its words and what it does to a trip.

The browser's form is made from these (`x-kinds` of NewEntry in the API's description).
"""

from __future__ import annotations

from oddkettle.core.estimation.readings import LOG_KINDS_OF_READINGS
from oddkettle.core.estimation.readings.log_kind import (
    MAX_COUNTED,
    LogKind,
    LogNumber,
    always_at,
    around,
)
from oddkettle.core.estimation.readings.percent import USUAL_OFF
from oddkettle.core.estimation.readings.rested_voltage import bar as rested_bar

VOLTS = (5.0, 32.0, "V")
AMPS = (-1000.0, 1000.0, "A")
LOG_KINDS: tuple[LogKind, ...] = (
    LogKind(
        "monitor_percent",
        "monitor %",
        "read",
        "monitor says {value:g} %",
        (LogNumber("value", "The monitor says", 0.0, 100.0, "%", needed=True),),
        hint="A counting monitor is often some points off until the next full charge; that is "
        "reckoned with.",
        worth="A counter drifts; a full charge sets it right.",
        reading="percent",
        scale=100.0,
        bar=around(100 * USUAL_OFF),
    ),
    LogKind(
        "rested_voltage",
        "rested V",
        "read",
        "rested at {value:g} V{rest}",
        (
            LogNumber("value", "Rested voltage", *VOLTS, needed=True),
            LogNumber("rested_h", "Rested for", 0.0, 240.0, "h"),
        ),
        hint="Rested means some hours with nothing in or out. On LiFePO4 the curve is so flat from "
        "30 to 90 % that a voltmeter there says little; the bar on the chart is as long as that "
        "doubt.",
        reading="rested_v",
        bar=rested_bar,
    ),
    LogKind(
        "loaded_voltage",
        "V under load",
        "read",
        "{value:g} V under load{flow}",
        (
            LogNumber("value", "Voltage", *VOLTS, needed=True),
            LogNumber("amps", "Into the battery (−: out)", *AMPS),
        ),
        hint="Worth more with the current read at the same moment.",
        worth="Under load a voltage says little, with the current beside it a little more.",
        reading="loaded_v",
    ),
    LogKind(
        "counters",
        "counters",
        "read",
        "counted {counted}",
        (
            LogNumber("ah_in", "Counted in", 0.0, MAX_COUNTED, "Ah"),
            LogNumber("ah_out", "Counted out", 0.0, MAX_COUNTED, "Ah"),
            LogNumber("wh_in", "Counted in", 0.0, MAX_COUNTED, "Wh"),
            LogNumber("wh_out", "Counted out", 0.0, MAX_COUNTED, "Wh"),
        ),
        hint="As they stand; what ran since the counters read before is taken. The first ones need "
        "the time at which they were set to zero.",
        worth="What went through the shunt, good to some percent; it tells of use, not level.",
    ),
    LogKind(
        "two_meters",
        "two meters",
        "read",
        "two meters counted {counted}",
        (
            LogNumber("gross_in", "Came from all sources", 0.0, MAX_COUNTED, "Ah"),
            LogNumber("gross_out", "Went into all loads", 0.0, MAX_COUNTED, "Ah"),
        ),
        hint="For a box with one meter behind its chargers and one before its loads. As they "
        "stand; what ran since they were read before is taken. The first ones need the time at "
        "which they were set to zero.",
        worth="Each is good to some percent; what is left of both tells of the level.",
    ),
    LogKind(
        "net_amps",
        "A now",
        "read",
        "{value:+g} A at the battery",
        (LogNumber("value", "Into the battery (−: out)", *AMPS, needed=True),),
        hint="One glance: clouds and compressors change it by the minute.",
        worth="One glance: clouds and compressors change it by the minute.",
        reading="net_a",
    ),
    LogKind(
        "full",
        "full",
        "read",
        "the charger says full",
        hint="The charger says full: the most reliable reading.",
        worth="One of the most reliable readings.",
        reading="full",
        bar=always_at(97.0, 100.0, 100.0),
    ),
    LogKind(
        "cut_out",
        "cut out",
        "read",
        "the box cut out",
        hint="The box switched itself off: as reliable, at the other end.",
        worth="One of the most reliable readings: the battery was near its end.",
        reading="cut_out",
        bar=always_at(0.0, 2.0, 6.0),
    ),
    *LOG_KINDS_OF_READINGS,
    LogKind("drove", "drove", "did", "drove until {ends}", span=True, block="drive"),
    LogKind(
        "no_drive", "did not drive", "did", "did not drive that day", daily=True,
        block="drive", adds=False,
    ),
    LogKind("hooked_up", "on mains", "did", "on mains until {ends}", span=True, block="hookup"),
    LogKind(
        "no_hookup", "no mains", "did", "no mains that day", daily=True,
        block="hookup", adds=False,
    ),
    LogKind(
        "generator_ran", "ran the generator", "did", "ran the generator until {ends}", span=True,
        block="generator",
    ),
    LogKind("panel_out", "panel out", "did", "panel out until {ends}", span=True,
            block="panel_out"),
    LogKind(
        "panel_in", "panel away", "did", "panel put away until {ends}", span=True,
        block="panel_out", adds=False, cuts=True,
    ),
    LogKind("skipped", "left off", "did", "{name} off until {ends}", span=True, appliance=True,
            adds=False),
    LogKind("ran", "ran besides", "did", "{name} on until {ends}", span=True, appliance=True),
    LogKind("sky", "the sky", "saw", "the sky was {sky}", daily=True),
)  # fmt: skip
BY_KEY: dict[str, LogKind] = {kind.key: kind for kind in LOG_KINDS}
