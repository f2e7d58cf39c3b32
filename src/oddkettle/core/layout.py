"""Where each number stands in the plain arrays that the stepping loop works on.

Compiled code reads plain arrays fastest; these names keep it readable. They are built into the
cached code: after a change here, touch `kernel.py`, by whose age the cache goes.
"""

from __future__ import annotations

# A bank's state: state of charge 0..1, lag of the available well, battery temperature [C].
SOC, LAG, WARMTH_C = range(3)

# A bank's operating point for one step. REST_V is the rested voltage with half of the step's
# recovery, GIVE_S and TAKE_S the conductances for the mean of the step, HOLD_OHM, HOLD_GIVE_OHM
# and HOLD_V resistances and voltage for its end; OHM the bare resistance; DRIFT_OHM what the
# rested voltage moves in the step per ampere given; PINNED_A a current that an emptying bank
# cannot exceed (0 when free); KEPT the coulombic efficiency.
(
    REST_V,
    GIVE_S,
    TAKE_S,
    HOLD_OHM,
    HOLD_GIVE_OHM,
    HOLD_V,
    DRIFT_OHM,
    OHM,
    EMPTY,
    HEAD,
    LEAK_SOC,
    PINNED_A,
    INTO_A,
    KEPT,
) = range(14)

# What a source offers in a step: power at the charger's output [W], largest output current [A]
# (0 while it is off), and a relay's source voltage [V].
OFFER_W, LIMIT_A, EMF_V = range(3)

# A source's settings (7), then its own state (6). FEED_S is a relay's feed conductance [S], 0
# for a charger; SHARED is 1 for those that stay under SHARED_A together.
(
    FEED_S,
    ABSORB_V,
    FLOAT_V,
    TAIL_A,
    ABSORB_STEPS,
    COMP_V_PER_K,
    SHARED,
    STAGE,
    WAITED,
    TAKEN_A,
    CAP_A,
    HELD,
    SET_V,
) = range(13)
SETTINGS = slice(FEED_S, STAGE)
BULK, ABSORPTION, FLOAT = 0.0, 1.0, 2.0

# What is asked of the bus: power [W], current [A], conductance [S].
ASK_W, ASK_A, ASK_S = range(3)

# The loop's own switches, and the box's settings.
SHED, CUT, HEATING, BUS_V = range(4)
HEATER_W, HEAT_BELOW_C, HEAT_UNTIL_C, SHARED_A = range(4)

# What a step tells.
SAID_V, SAID_LOAD_A, SAID_INTO_A, SAID_SERVED, SAID_SHED, SAID_HEATER_W = range(6)

# What a meter at the battery counts of a future: charge and energy in and out [Ah, Wh], and the
# battery's and the loads' current in the last step [A].
COUNTED = range(6)
AH_IN, AH_OUT, WH_IN, WH_OUT, NOW_A, NOW_LOAD_A = COUNTED
