"""The records that the compiled step works on: every number has a name.

An array of such records is a plain block of numbers; `table["soc"]` is a view of one column, and
compiled code writes `table[i].soc`. All fields are float64 unless a record says otherwise.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

Records = NDArray[Any]
"""An array of one of the record types below."""


def _numbers(*names: str) -> np.dtype[Any]:
    # Of type np.record, so that plain Python reads `table[i].soc` just as compiled code does.
    return np.dtype((np.record, [(name, np.float64) for name in names]))


BANK_STATE = _numbers("soc", "lag", "temperature_c")
"""State of charge 0..1, lag of the available well behind it, battery temperature [C]."""

CURVE_KNOT = _numbers("ocv_v", "cell_ohm", "charge_ohm", "accept_ohm", "coulombic")
"""By state of charge: rested voltage [V], resistance of the cells and what absorption meets
[ohm at 25 C], coulombic efficiency."""

TEMPERATURE_ROW = _numbers("ohm_factor", "accept_factor", "empty_head", "leak")
"""By tenths of a kelvin: growth of both resistances (1 at 25 C), the head at which nothing more
comes out, state of charge lost by itself in a step."""

BANK = _numbers(
    "capacity_ah",
    "soc_per_a",
    "fill_a",
    "charge_limit_a",
    "barred_c",
    "gentle_c",
    "gentle_a",
    "cutoff_v",
    "lag_decay",
    "lag_gain",
    "lead_ohm",
    "accept_scale",
    "heat_decay",
    "k_per_w",
    "offset_k",
)
"""A bank's single numbers for one step length. `soc_per_a` is the change of state of charge by
1 A over a step, `fill_a` the current that fills an empty bank in one; charging is barred below
`barred_c` and at most `gentle_a` below `gentle_c`; `lag_decay` and `lag_gain` are the slow well's;
`heat_decay`, `k_per_w` and `offset_k` the housing's."""

OPERATING_POINT = _numbers(
    "rest_v",
    "give_s",
    "take_s",
    "hold_ohm",
    "hold_give_ohm",
    "hold_v",
    "drift_ohm",
    "ohm",
    "take_ohm",
    "charge_ohm",
    "empty",
    "head",
    "leak_soc",
    "pinned_a",
    "into_a",
    "kept",
)
"""A bank within one step: the rested voltage with half of the step's recovery [V], conductances
for the mean of the step [S], resistances and voltage for its end, what the rested voltage moves in
the step per ampere given, the bare resistance and that which charging meets, the head at empty and
now, a current that an emptying bank cannot exceed (0 when free), the current found, and the
coulombic efficiency."""

OFFER = _numbers("power_w", "limit_a", "emf_v")
"""What a source offers in a step: power at the charger's output [W], largest output current [A]
(0 while it is off), and a relay's source voltage [V]."""

CHARGER_SETTINGS = (
    "feed_s",
    "absorb_v",
    "float_v",
    "tail_a",
    "absorb_steps",
    "comp_v_per_k",
    "shared",
    "second_v",
    "second_steps",
    "refresh_steps",
)
CHARGER = _numbers(*CHARGER_SETTINGS, "stage", "waited", "taken_a", "cap_a", "held", "set_v")
"""A source's settings: a relay's feed conductance [S] (0 for a charger), absorption and float [V],
the tail current that ends absorption [A], steps after which it ends whatever the current, V/K of
compensation, 1 for those that stay under `shared_a` together, a second absorption's voltage [V]
and steps, and the steps of float after which it charges anew (0 for none). Then its own state."""
BULK, ABSORPTION, FLOAT, SECOND = 0.0, 1.0, 2.0, 3.0
"""A charger's stage; `SECOND` is a second absorption, between the first and float."""

ASK = _numbers("power_w", "current_a", "conductance_s")
"""What is asked of the bus: constant power [W], current [A] and conductance [S]."""
ASK_W, ASK_A, ASK_S = range(3)
"""Which of them a load asks: its place in `ASK`."""

BOX = _numbers(
    "heater_w", "heat_below_c", "heat_until_c", "shared_a", "output_off_v", "output_on_v"
)
"""Heater pads [W], on below and off above [C]; most that the sharing sources give together [A];
volts at which a controller's load output goes off and comes back [V], 0 where there is none."""

SWITCHES = _numbers("shed", "cut", "heating", "output_off", "bus_v")
"""How many groups of loads are off, whether the box is cut out, the pads are on and the load
output is off (0 or 1), and the last bus voltage [V], where the next search begins."""

STEP = _numbers("bus_v", "load_a", "into_bank_a", "served", "shed", "output_off", "heater_w")
"""What a step tells: means over it."""
FLOW = _numbers("bank_a", "leak", "met_ohm")
"""Current into a bank [A], state of charge lost by itself in a step, and the resistance that the
current met [ohm], acceptance included while charging."""
TAKEN = _numbers("taken_a", "stage")
"""Current taken of a source [A] and its charger's stage."""

COUNTED = _numbers(
    "ah_in", "ah_out", "wh_in", "wh_out", "gross_in", "gross_out", "now_a", "now_load_a"
)
"""What meters count of a scenario: at the battery, charge and energy in and out [Ah, Wh]; behind
all sources and before all loads, what came and what went [Ah]; and the battery's and the loads'
current in the last step [A]."""


def lay(kind: np.dtype[Any], **columns: Any) -> Records:
    """An array of records from columns of equal shape; the shape is that of the columns."""
    shape = np.broadcast_shapes(*(np.shape(column) for column in columns.values()))
    table = np.zeros(shape, kind)
    for name, column in columns.items():
        table[name] = column
    return table


def from_numbers(kind: np.dtype[Any], numbers: NDArray[np.float64]) -> Records:
    """Records from plain numbers with the fields as a last axis: `as_numbers` backwards."""
    return np.ascontiguousarray(numbers).view(kind)[..., 0]


def as_numbers(table: Records) -> NDArray[np.float64]:
    """The same memory as plain numbers, with the fields as a last axis."""
    assert table.dtype.names is not None
    return table.view(np.float64).reshape(*table.shape, len(table.dtype.names))
