// Generated from openapi.json by limits.mjs; do not edit.
export const LIMITS = {
  "Alternator.idle_percent": {
    "least": 0,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Alternator.own_loads_a": {
    "least": 0,
    "most": 200,
    "unit": "A",
    "whole": false
  },
  "Alternator.rated_a": {
    "least": 10,
    "most": 400,
    "unit": "A",
    "whole": false
  },
  "Alternator.smart_after_min": {
    "least": 0,
    "most": 240,
    "unit": "min",
    "whole": false
  },
  "Alternator.smart_v": {
    "least": 10,
    "most": 32,
    "unit": "V",
    "whole": false
  },
  "Alternator.volts": {
    "least": 10,
    "most": 32,
    "unit": "V",
    "whole": false
  },
  "Appliance.duty_percent": {
    "least": 1,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Appliance.power_w": {
    "least": 0.001,
    "most": 5000,
    "unit": "W",
    "whole": false
  },
  "Appliance.spread_percent": {
    "least": 0,
    "most": 90,
    "unit": "%",
    "whole": false
  },
  "Appliance.standby_w": {
    "least": 0,
    "most": 1000,
    "unit": "W",
    "whole": false
  },
  "Appliance.surge_w": {
    "least": 0,
    "most": 20000,
    "unit": "W",
    "whole": false
  },
  "Assumptions.capacity_doubt_percent": {
    "least": 0,
    "most": 50,
    "unit": "%",
    "whole": false
  },
  "Assumptions.high_c": {
    "least": -50,
    "most": 60,
    "unit": "C",
    "whole": false
  },
  "Assumptions.low_c": {
    "least": -50,
    "most": 60,
    "unit": "C",
    "whole": false
  },
  "Assumptions.panel_doubt_percent": {
    "least": 0,
    "most": 50,
    "unit": "%",
    "whole": false
  },
  "Assumptions.scenarios": {
    "least": 1,
    "most": 2000,
    "unit": "trips",
    "whole": true
  },
  "Assumptions.seed": {
    "least": 0,
    "most": 999999,
    "unit": "",
    "whole": true
  },
  "Assumptions.settled": {
    "least": 0.8,
    "most": 12,
    "unit": "settled",
    "whole": false
  },
  "Assumptions.start_doubt_percent": {
    "least": 0,
    "most": 50,
    "unit": "%",
    "whole": false
  },
  "Assumptions.step_min": {
    "least": 1,
    "most": 60,
    "unit": "min",
    "whole": true
  },
  "Assumptions.usual_clearness": {
    "least": 0.02,
    "most": 1.3,
    "unit": "of a clear day",
    "whole": false
  },
  "Battery.absorption_hours": {
    "least": 0.1,
    "most": 24,
    "unit": "h",
    "whole": false
  },
  "Battery.absorption_v": {
    "least": 9,
    "most": 18,
    "unit": "V at 12 V class",
    "whole": false
  },
  "Battery.battery_v": {
    "least": 2,
    "most": 24,
    "unit": "V",
    "whole": false
  },
  "Battery.capacity_ah": {
    "least": 1,
    "most": 1500,
    "unit": "Ah",
    "whole": false
  },
  "Battery.cells": {
    "least": 1,
    "most": 16,
    "unit": "cells",
    "whole": true
  },
  "Battery.float_v": {
    "least": 9,
    "most": 18,
    "unit": "V at 12 V class",
    "whole": false
  },
  "Battery.parallel": {
    "least": 1,
    "most": 16,
    "unit": "batteries",
    "whole": true
  },
  "Battery.series": {
    "least": 1,
    "most": 16,
    "unit": "batteries",
    "whole": true
  },
  "Battery.tail_percent": {
    "least": 0.1,
    "most": 20,
    "unit": "% of capacity",
    "whole": false
  },
  "Block.day": {
    "least": 0,
    "most": 399,
    "unit": "days after the first",
    "whole": true
  },
  "Block.end_day": {
    "least": 0,
    "most": 399,
    "unit": "days after the first",
    "whole": true
  },
  "Box.system_v": {
    "least": 12,
    "most": 24,
    "unit": "V",
    "whole": false
  },
  "Build.ambient_c": {
    "least": -30,
    "most": 80,
    "unit": "C",
    "whole": false
  },
  "Build.main_fuse_mm": {
    "least": 10,
    "most": 3000,
    "unit": "mm",
    "whole": false
  },
  "Build.waste_percent": {
    "least": 0,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "BurstsPattern.minutes": {
    "least": 0.05,
    "most": 720,
    "unit": "min",
    "whole": false
  },
  "BurstsPattern.times_a_day": {
    "least": 0.01,
    "most": 10000,
    "unit": "a day",
    "whole": false
  },
  "CapacityAsked.drawn_ah": {
    "least": 1,
    "most": 1500,
    "unit": "Ah",
    "whole": false
  },
  "CapacityAsked.rested_v": {
    "least": 1,
    "most": 60,
    "unit": "V",
    "whole": false
  },
  "CapacityReading.capacity_ah": {
    "least": 1,
    "most": 1500,
    "unit": "Ah",
    "whole": false
  },
  "CircuitChoice.cable_mm2": {
    "least": 0.5,
    "most": 120,
    "unit": "mm2",
    "whole": false
  },
  "CircuitChoice.fuse_a": {
    "least": 1,
    "most": 400,
    "unit": "A",
    "whole": false
  },
  "CircuitChoice.run_m": {
    "least": 0.05,
    "most": 60,
    "unit": "m",
    "whole": false
  },
  "ComparedUnit.capacity_wh": {
    "least": 10,
    "most": 20000,
    "unit": "Wh",
    "whole": false
  },
  "ComparedUnit.euro": {
    "least": 0,
    "most": 100000,
    "unit": "euro",
    "whole": false
  },
  "ComparedUnit.kg": {
    "least": 0,
    "most": 1000,
    "unit": "kg",
    "whole": false
  },
  "Controller.efficiency_percent": {
    "least": 30,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Controller.headroom_v": {
    "least": 0,
    "most": 10,
    "unit": "V",
    "whole": false
  },
  "Controller.input_limit_v": {
    "least": 5,
    "most": 600,
    "unit": "V",
    "whole": false
  },
  "Controller.input_limit_w": {
    "least": 1,
    "most": 20000,
    "unit": "W",
    "whole": false
  },
  "Controller.limit_a": {
    "least": 0.05,
    "most": 300,
    "unit": "A",
    "whole": false
  },
  "Controller.own_w": {
    "least": 0,
    "most": 200,
    "unit": "W",
    "whole": false
  },
  "Converter.efficiency_percent": {
    "least": 30,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Converter.idle_w": {
    "least": 0,
    "most": 200,
    "unit": "W",
    "whole": false
  },
  "Converter.limit_a": {
    "least": 1,
    "most": 100,
    "unit": "A",
    "whole": false
  },
  "Counted.after": {
    "least": 0,
    "most": 1000000,
    "unit": "Ah or Wh",
    "whole": false
  },
  "Counted.air_c": {
    "least": -50,
    "most": 60,
    "unit": "C",
    "whole": false
  },
  "Counted.before": {
    "least": 0,
    "most": 1000000,
    "unit": "Ah or Wh",
    "whole": false
  },
  "Counted.hours": {
    "least": 0.02,
    "most": 2000,
    "unit": "h",
    "whole": false
  },
  "Counted.others_w": {
    "least": 0,
    "most": 1000,
    "unit": "W",
    "whole": false
  },
  "CurveAsked.amps": {
    "least": 0.5,
    "most": 2000,
    "unit": "A",
    "whole": false
  },
  "Datasheet.charge_limit_a": {
    "least": 0.5,
    "most": 2000,
    "unit": "A",
    "whole": false
  },
  "Datasheet.coulombic_percent": {
    "least": 30,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Datasheet.cutoff_v": {
    "least": 5,
    "most": 30,
    "unit": "V",
    "whole": false
  },
  "Datasheet.cycles": {
    "least": 10,
    "most": 50000,
    "unit": "cycles",
    "whole": false
  },
  "Datasheet.discharge_limit_a": {
    "least": 0.5,
    "most": 2000,
    "unit": "A",
    "whole": false
  },
  "Datasheet.internal_mohm": {
    "least": 0.02,
    "most": 2000,
    "unit": "mOhm",
    "whole": false
  },
  "Datasheet.no_charge_below_c": {
    "least": -50,
    "most": 60,
    "unit": "C",
    "whole": false
  },
  "Datasheet.self_discharge_percent": {
    "least": 0,
    "most": 40,
    "unit": "% a month",
    "whole": false
  },
  "Datasheet.weight_kg": {
    "least": 0.05,
    "most": 500,
    "unit": "kg",
    "whole": false
  },
  "Datasheet.years": {
    "least": 0.5,
    "most": 40,
    "unit": "years",
    "whole": false
  },
  "Day.high_c": {
    "least": -50,
    "most": 60,
    "unit": "C",
    "whole": false
  },
  "Day.low_c": {
    "least": -50,
    "most": 60,
    "unit": "C",
    "whole": false
  },
  "Enclosure.empty_kg": {
    "least": 0,
    "most": 1000,
    "unit": "kg",
    "whole": false
  },
  "Enclosure.height_mm": {
    "least": 80,
    "most": 2000,
    "unit": "mm",
    "whole": false
  },
  "Enclosure.length_mm": {
    "least": 80,
    "most": 2000,
    "unit": "mm",
    "whole": false
  },
  "Enclosure.wall_mm": {
    "least": 1,
    "most": 60,
    "unit": "mm",
    "whole": false
  },
  "Enclosure.width_mm": {
    "least": 80,
    "most": 2000,
    "unit": "mm",
    "whole": false
  },
  "FaceItem.hole_mm": {
    "least": 3,
    "most": 150,
    "unit": "mm",
    "whole": false
  },
  "FaceItem.x_mm": {
    "least": 0,
    "most": 2000,
    "unit": "mm",
    "whole": false
  },
  "FaceItem.y_mm": {
    "least": 0,
    "most": 2000,
    "unit": "mm",
    "whole": false
  },
  "Feed.area_mm2": {
    "least": 0.5,
    "most": 120,
    "unit": "mm2",
    "whole": false
  },
  "Feed.connectors_mohm": {
    "least": 0,
    "most": 500,
    "unit": "mOhm",
    "whole": false
  },
  "Feed.length_m": {
    "least": 0.1,
    "most": 60,
    "unit": "m",
    "whole": false
  },
  "Flexible.by_day": {
    "least": 0,
    "most": 399,
    "unit": "days after the first",
    "whole": true
  },
  "Flexible.minutes": {
    "least": 5,
    "most": 1440,
    "unit": "min",
    "whole": true
  },
  "FlexibleRun.day": {
    "least": 0,
    "most": 399,
    "unit": "days after the first",
    "whole": true
  },
  "ForecastDay.high_c": {
    "least": -50,
    "most": 60,
    "unit": "C",
    "whole": false
  },
  "ForecastDay.low_c": {
    "least": -50,
    "most": 60,
    "unit": "C",
    "whole": false
  },
  "FridgePattern.cycle_min": {
    "least": 2,
    "most": 240,
    "unit": "min",
    "whole": false
  },
  "FridgePattern.lid_percent": {
    "least": 0,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "FridgePattern.reference_c": {
    "least": -50,
    "most": 60,
    "unit": "C",
    "whole": false
  },
  "FridgePattern.set_c": {
    "least": -30,
    "most": 40,
    "unit": "C",
    "whole": false
  },
  "FridgePattern.warmer_k": {
    "least": -20,
    "most": 60,
    "unit": "K",
    "whole": false
  },
  "Generator.full_l_h": {
    "least": 0.01,
    "most": 10,
    "unit": "l/h",
    "whole": false
  },
  "Generator.idle_l_h": {
    "least": 0.01,
    "most": 10,
    "unit": "l/h",
    "whole": false
  },
  "Generator.noise_db": {
    "least": 30,
    "most": 100,
    "unit": "dB(A) at 7 m",
    "whole": false
  },
  "Generator.rated_w": {
    "least": 100,
    "most": 10000,
    "unit": "W",
    "whole": false
  },
  "Generator.tank_l": {
    "least": 0.1,
    "most": 100,
    "unit": "l",
    "whole": false
  },
  "Goal.sure_percent": {
    "least": 50,
    "most": 99.5,
    "unit": "%",
    "whole": false
  },
  "Heater.off_above_c": {
    "least": -50,
    "most": 60,
    "unit": "C",
    "whole": false
  },
  "Heater.on_below_c": {
    "least": -50,
    "most": 60,
    "unit": "C",
    "whole": false
  },
  "Heater.power_w": {
    "least": 1,
    "most": 500,
    "unit": "W",
    "whole": false
  },
  "Housing.lag_h": {
    "least": 0.2,
    "most": 200,
    "unit": "h",
    "whole": false
  },
  "Housing.warmer_k": {
    "least": -20,
    "most": 60,
    "unit": "K",
    "whole": false
  },
  "Inverter.efficiency_percent": {
    "least": 30,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Inverter.idle_w": {
    "least": 0,
    "most": 200,
    "unit": "W",
    "whole": false
  },
  "Inverter.rating_w": {
    "least": 20,
    "most": 6000,
    "unit": "W",
    "whole": false
  },
  "Inverter.socket_fuse_a": {
    "least": 1,
    "most": 400,
    "unit": "A",
    "whole": false
  },
  "Inverter.surge_w": {
    "least": 0,
    "most": 20000,
    "unit": "W",
    "whole": false
  },
  "Joining.limit_a": {
    "least": 0.05,
    "most": 300,
    "unit": "A",
    "whole": false
  },
  "LoadOutput.limit_a": {
    "least": 0.05,
    "most": 300,
    "unit": "A",
    "whole": false
  },
  "LoadOutput.off_v": {
    "least": 9,
    "most": 18,
    "unit": "V at 12 V class",
    "whole": false
  },
  "LoadOutput.on_v": {
    "least": 9,
    "most": 18,
    "unit": "V at 12 V class",
    "whole": false
  },
  "LoggerPattern.events_a_day": {
    "least": 0.01,
    "most": 10000,
    "unit": "a day",
    "whole": false
  },
  "LoggerPattern.seconds": {
    "least": 0.01,
    "most": 3600,
    "unit": "s",
    "whole": false
  },
  "LoggerPattern.sleep_w": {
    "least": 0,
    "most": 1000,
    "unit": "W",
    "whole": false
  },
  "Mains.efficiency_percent": {
    "least": 30,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Mains.limit_a": {
    "least": 0.05,
    "most": 300,
    "unit": "A",
    "whole": false
  },
  "Mains.supply_w": {
    "least": 1,
    "most": 20000,
    "unit": "W",
    "whole": false
  },
  "MendAsked.sure_percent": {
    "least": 50,
    "most": 99.5,
    "unit": "%",
    "whole": false
  },
  "NewThing.euro": {
    "least": 0,
    "most": 100000,
    "unit": "euro",
    "whole": false
  },
  "Outlet.spare_a": {
    "least": 0,
    "most": 60,
    "unit": "A",
    "whole": false
  },
  "OwnedPart.euro": {
    "least": 0,
    "most": 100000,
    "unit": "euro",
    "whole": false
  },
  "OwnedPart.height_mm": {
    "least": 5,
    "most": 1500,
    "unit": "mm",
    "whole": false
  },
  "OwnedPart.kg": {
    "least": 0,
    "most": 1000,
    "unit": "kg",
    "whole": false
  },
  "OwnedPart.length_mm": {
    "least": 5,
    "most": 1500,
    "unit": "mm",
    "whole": false
  },
  "OwnedPart.width_mm": {
    "least": 5,
    "most": 1500,
    "unit": "mm",
    "whole": false
  },
  "Panel.aims": {
    "least": 1,
    "most": 12,
    "unit": "times a day",
    "whole": true
  },
  "Panel.azimuth_deg": {
    "least": 0,
    "most": 360,
    "unit": "degrees from north",
    "whole": false
  },
  "Panel.count": {
    "least": 1,
    "most": 24,
    "unit": "panels",
    "whole": true
  },
  "Panel.power_w": {
    "least": 1,
    "most": 5000,
    "unit": "W",
    "whole": false
  },
  "Panel.tilt_deg": {
    "least": 0,
    "most": 90,
    "unit": "degrees from flat",
    "whole": false
  },
  "PanelLabel.fuse_max_a": {
    "least": 1,
    "most": 400,
    "unit": "A",
    "whole": false
  },
  "PanelLabel.imp_a": {
    "least": 0.01,
    "most": 60,
    "unit": "A",
    "whole": false
  },
  "PanelLabel.isc_a": {
    "least": 0.01,
    "most": 60,
    "unit": "A",
    "whole": false
  },
  "PanelLabel.power_percent_per_k": {
    "least": -2,
    "most": 0,
    "unit": "% a kelvin",
    "whole": false
  },
  "PanelLabel.vmp_v": {
    "least": 1,
    "most": 150,
    "unit": "V",
    "whole": false
  },
  "PanelLabel.voc_percent_per_k": {
    "least": -2,
    "most": 0,
    "unit": "% a kelvin",
    "whole": false
  },
  "PanelLabel.voc_v": {
    "least": 1,
    "most": 150,
    "unit": "V",
    "whole": false
  },
  "PlaceClimate.settled": {
    "least": 0.8,
    "most": 12,
    "unit": "settled",
    "whole": false
  },
  "PlacedPart.x_mm": {
    "least": 0,
    "most": 2000,
    "unit": "mm",
    "whole": false
  },
  "PlacedPart.y_mm": {
    "least": 0,
    "most": 2000,
    "unit": "mm",
    "whole": false
  },
  "PlacedPart.z_mm": {
    "least": 0,
    "most": 2000,
    "unit": "mm",
    "whole": false
  },
  "PriceTag.euro_high": {
    "least": 0,
    "most": 100000,
    "unit": "euro",
    "whole": false
  },
  "PriceTag.euro_low": {
    "least": 0,
    "most": 100000,
    "unit": "euro",
    "whole": false
  },
  "PriceTag.kg_high": {
    "least": 0,
    "most": 1000,
    "unit": "kg",
    "whole": false
  },
  "PriceTag.kg_low": {
    "least": 0,
    "most": 1000,
    "unit": "kg",
    "whole": false
  },
  "Profile.absorption_hours": {
    "least": 0.1,
    "most": 24,
    "unit": "h",
    "whole": false
  },
  "Profile.absorption_v": {
    "least": 9,
    "most": 18,
    "unit": "V at 12 V class",
    "whole": false
  },
  "Profile.float_v": {
    "least": 9,
    "most": 18,
    "unit": "V at 12 V class",
    "whole": false
  },
  "Profile.refresh_days": {
    "least": 0,
    "most": 90,
    "unit": "days",
    "whole": false
  },
  "Profile.second_hours": {
    "least": 0.1,
    "most": 24,
    "unit": "h",
    "whole": false
  },
  "Profile.second_v": {
    "least": 9,
    "most": 18,
    "unit": "V at 12 V class",
    "whole": false
  },
  "Profile.tail_percent": {
    "least": 0.1,
    "most": 20,
    "unit": "% of capacity",
    "whole": false
  },
  "RadioPattern.receive_w": {
    "least": 0,
    "most": 1000,
    "unit": "W",
    "whole": false
  },
  "RadioPattern.transmit_percent": {
    "least": 0,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "RestedPoint.percent": {
    "least": 0,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "RestedPoint.volts": {
    "least": 1,
    "most": 60,
    "unit": "V",
    "whole": false
  },
  "SecondBank.link_mohm": {
    "least": 0,
    "most": 500,
    "unit": "mOhm",
    "whole": false
  },
  "SecondBank.start_percent": {
    "least": 0,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Sentence.coldest_c": {
    "least": -50,
    "most": 60,
    "unit": "C",
    "whole": false
  },
  "Shade.loses_percent": {
    "least": 0,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Shedding.first_percent": {
    "least": 0,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Shedding.wanted_percent": {
    "least": 0,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Site.altitude_m": {
    "least": -430,
    "most": 6000,
    "unit": "m",
    "whole": false
  },
  "Site.latitude": {
    "least": -90,
    "most": 90,
    "unit": "degrees north",
    "whole": false
  },
  "Site.longitude": {
    "least": -180,
    "most": 180,
    "unit": "degrees east",
    "whole": false
  },
  "Stop.altitude_m": {
    "least": -430,
    "most": 6000,
    "unit": "m",
    "whole": false
  },
  "Stop.latitude": {
    "least": -90,
    "most": 90,
    "unit": "degrees north",
    "whole": false
  },
  "Stop.longitude": {
    "least": -180,
    "most": 180,
    "unit": "degrees east",
    "whole": false
  },
  "Sun.cable_m": {
    "least": 0.1,
    "most": 60,
    "unit": "m",
    "whole": false
  },
  "Sun.cable_mm2": {
    "least": 0.5,
    "most": 120,
    "unit": "mm2",
    "whole": false
  },
  "Sun.dirt_percent": {
    "least": 0,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Sun.series": {
    "least": 1,
    "most": 12,
    "unit": "panels in series",
    "whole": true
  },
  "Thing.power_w": {
    "least": 0.001,
    "most": 5000,
    "unit": "W",
    "whole": false
  },
  "Thing.sending_percent": {
    "least": 0,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Trip.floor_percent": {
    "least": 0,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Trip.start_percent": {
    "least": 0,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Unit.capacity_wh": {
    "least": 10,
    "most": 20000,
    "unit": "Wh",
    "whole": false
  },
  "Unit.dc_efficiency_percent": {
    "least": 30,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Unit.dc_output_w": {
    "least": 1,
    "most": 20000,
    "unit": "W",
    "whole": false
  },
  "Unit.input_w": {
    "least": 1,
    "most": 20000,
    "unit": "W",
    "whole": false
  },
  "Unit.standby_w": {
    "least": 0,
    "most": 200,
    "unit": "W",
    "whole": false
  },
  "Unit.usable_percent": {
    "least": 30,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "UnitInput.limit_v": {
    "least": 5,
    "most": 600,
    "unit": "V",
    "whole": false
  },
  "UnitInput.limit_w": {
    "least": 1,
    "most": 20000,
    "unit": "W",
    "whole": false
  },
  "Vehicle.cut_in_v": {
    "least": 10,
    "most": 32,
    "unit": "V",
    "whole": false
  },
  "Vehicle.cut_out_v": {
    "least": 10,
    "most": 32,
    "unit": "V",
    "whole": false
  },
  "Vehicle.delay_min": {
    "least": 0,
    "most": 240,
    "unit": "min",
    "whole": false
  },
  "Vehicle.efficiency_percent": {
    "least": 30,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Vehicle.fuse_a": {
    "least": 1,
    "most": 400,
    "unit": "A",
    "whole": false
  },
  "Vehicle.hot_from_c": {
    "least": -50,
    "most": 60,
    "unit": "C",
    "whole": false
  },
  "Vehicle.limit_a": {
    "least": 0.05,
    "most": 300,
    "unit": "A",
    "whole": false
  }
} as const;
/** Most entries of each list. */
export const MOST = {
  "Appliance.hours": 12,
  "Assumptions.tags": 100,
  "Box.generator": 2,
  "Box.mains": 3,
  "Box.order": 12,
  "Box.readings": 200,
  "Box.sun": 6,
  "Box.vehicle": 3,
  "Build.circuits": 120,
  "Build.items": 200,
  "Build.outlets": 40,
  "Build.parts": 300,
  "Build.placed": 120,
  "Flexible.runs": 400,
  "Joining.members": 12,
  "LoadOutput.appliances": 60,
  "MendAsked.never": 100,
  "Outlet.appliances": 60,
  "PlaceClimate.clearness": 12,
  "PlaceClimate.high_c": 12,
  "PlaceClimate.low_c": 12,
  "Sentence.chargers": 6,
  "Sentence.things": 20,
  "Sun.panels": 12,
  "Sun.shade": 6,
  "Trip.blocks": 1200,
  "Trip.days": 400,
  "Trip.stops": 40,
  "Unit.inputs": 6,
  "UnitInput.members": 6,
  "Use.appliances": 60,
  "Use.quiet_hours": 6
} as const;
/** Fields of a battery that belong to its chemistry. */
export const OF_CHEMISTRY = ["absorption_v","float_v","cells","datasheet"] as const;
/** Every kind of entry of the log, with its form. */
export const LOG_KINDS = [
  {
    "adds": true,
    "appliance": false,
    "around": 3,
    "cuts": false,
    "daily": false,
    "group": "read",
    "hint": "A counting monitor is often some points off until the next full charge; that is reckoned with.",
    "key": "monitor_percent",
    "label": "monitor %",
    "numbers": [
      {
        "key": "value",
        "label": "The monitor says",
        "least": 0,
        "most": 100,
        "needed": true,
        "unit": "%"
      }
    ],
    "reading": "percent",
    "scale": 100,
    "span": false,
    "text": "monitor says {value:g} %",
    "worth": "A counter drifts; a full charge sets it right."
  },
  {
    "adds": true,
    "appliance": false,
    "cuts": false,
    "daily": false,
    "group": "read",
    "hint": "Rested means some hours with nothing in or out. On LiFePO4 the curve is so flat from 30 to 90 % that a voltmeter there says little; the bar on the chart is as long as that doubt.",
    "key": "rested_voltage",
    "label": "rested V",
    "numbers": [
      {
        "key": "value",
        "label": "Rested voltage",
        "least": 5,
        "most": 32,
        "needed": true,
        "unit": "V"
      },
      {
        "key": "rested_h",
        "label": "Rested for",
        "least": 0,
        "most": 240,
        "needed": false,
        "unit": "h"
      }
    ],
    "reading": "rested_v",
    "scale": 1,
    "span": false,
    "text": "rested at {value:g} V{rest}",
    "worth": "Taken as it happened, in place of the plan."
  },
  {
    "adds": true,
    "appliance": false,
    "cuts": false,
    "daily": false,
    "group": "read",
    "hint": "Worth more with the current read at the same moment.",
    "key": "loaded_voltage",
    "label": "V under load",
    "numbers": [
      {
        "key": "value",
        "label": "Voltage",
        "least": 5,
        "most": 32,
        "needed": true,
        "unit": "V"
      },
      {
        "key": "amps",
        "label": "Into the battery (−: out)",
        "least": -1000,
        "most": 1000,
        "needed": false,
        "unit": "A"
      }
    ],
    "reading": "loaded_v",
    "scale": 1,
    "span": false,
    "text": "{value:g} V under load{flow}",
    "worth": "Under load a voltage says little, with the current beside it a little more."
  },
  {
    "adds": true,
    "appliance": false,
    "cuts": false,
    "daily": false,
    "group": "read",
    "hint": "As they stand; what ran since the counters read before is taken. The first ones need the time at which they were set to zero.",
    "key": "counters",
    "label": "counters",
    "numbers": [
      {
        "key": "ah_in",
        "label": "Counted in",
        "least": 0,
        "most": 1000000,
        "needed": false,
        "unit": "Ah"
      },
      {
        "key": "ah_out",
        "label": "Counted out",
        "least": 0,
        "most": 1000000,
        "needed": false,
        "unit": "Ah"
      },
      {
        "key": "wh_in",
        "label": "Counted in",
        "least": 0,
        "most": 1000000,
        "needed": false,
        "unit": "Wh"
      },
      {
        "key": "wh_out",
        "label": "Counted out",
        "least": 0,
        "most": 1000000,
        "needed": false,
        "unit": "Wh"
      }
    ],
    "scale": 1,
    "span": false,
    "text": "counted {counted}",
    "worth": "What went through the shunt, good to some percent; it tells of use, not level."
  },
  {
    "adds": true,
    "appliance": false,
    "cuts": false,
    "daily": false,
    "group": "read",
    "hint": "For a box with one meter behind its chargers and one before its loads. As they stand; what ran since they were read before is taken. The first ones need the time at which they were set to zero.",
    "key": "two_meters",
    "label": "two meters",
    "numbers": [
      {
        "key": "gross_in",
        "label": "Came from all sources",
        "least": 0,
        "most": 1000000,
        "needed": false,
        "unit": "Ah"
      },
      {
        "key": "gross_out",
        "label": "Went into all loads",
        "least": 0,
        "most": 1000000,
        "needed": false,
        "unit": "Ah"
      }
    ],
    "scale": 1,
    "span": false,
    "text": "two meters counted {counted}",
    "worth": "Each is good to some percent; what is left of both tells of the level."
  },
  {
    "adds": true,
    "appliance": false,
    "cuts": false,
    "daily": false,
    "group": "read",
    "hint": "One glance: clouds and compressors change it by the minute.",
    "key": "net_amps",
    "label": "A now",
    "numbers": [
      {
        "key": "value",
        "label": "Into the battery (−: out)",
        "least": -1000,
        "most": 1000,
        "needed": true,
        "unit": "A"
      }
    ],
    "reading": "net_a",
    "scale": 1,
    "span": false,
    "text": "{value:+g} A at the battery",
    "worth": "One glance: clouds and compressors change it by the minute."
  },
  {
    "adds": true,
    "appliance": false,
    "cuts": false,
    "daily": false,
    "group": "read",
    "hint": "The charger says full: an anchor.",
    "key": "full",
    "label": "full",
    "level": [
      97,
      100,
      100
    ],
    "numbers": [],
    "reading": "full",
    "scale": 1,
    "span": false,
    "text": "the charger says full",
    "worth": "An anchor: few things say as much."
  },
  {
    "adds": true,
    "appliance": false,
    "cuts": false,
    "daily": false,
    "group": "read",
    "hint": "The box switched itself off: an anchor at the other end.",
    "key": "cut_out",
    "label": "cut out",
    "level": [
      0,
      2,
      6
    ],
    "numbers": [],
    "reading": "cut_out",
    "scale": 1,
    "span": false,
    "text": "the box cut out",
    "worth": "An anchor: the battery stood near its end."
  },
  {
    "adds": true,
    "appliance": false,
    "block": "drive",
    "cuts": false,
    "daily": false,
    "group": "did",
    "hint": "",
    "key": "drove",
    "label": "drove",
    "numbers": [],
    "scale": 1,
    "span": true,
    "text": "drove until {ends}",
    "worth": "Taken as it happened, in place of the plan."
  },
  {
    "adds": false,
    "appliance": false,
    "block": "drive",
    "cuts": false,
    "daily": true,
    "group": "did",
    "hint": "",
    "key": "no_drive",
    "label": "did not drive",
    "numbers": [],
    "scale": 1,
    "span": false,
    "text": "did not drive that day",
    "worth": "Taken as it happened, in place of the plan."
  },
  {
    "adds": true,
    "appliance": false,
    "block": "hookup",
    "cuts": false,
    "daily": false,
    "group": "did",
    "hint": "",
    "key": "hooked_up",
    "label": "on mains",
    "numbers": [],
    "scale": 1,
    "span": true,
    "text": "on mains until {ends}",
    "worth": "Taken as it happened, in place of the plan."
  },
  {
    "adds": false,
    "appliance": false,
    "block": "hookup",
    "cuts": false,
    "daily": true,
    "group": "did",
    "hint": "",
    "key": "no_hookup",
    "label": "no mains",
    "numbers": [],
    "scale": 1,
    "span": false,
    "text": "no mains that day",
    "worth": "Taken as it happened, in place of the plan."
  },
  {
    "adds": true,
    "appliance": false,
    "block": "generator",
    "cuts": false,
    "daily": false,
    "group": "did",
    "hint": "",
    "key": "generator_ran",
    "label": "ran the generator",
    "numbers": [],
    "scale": 1,
    "span": true,
    "text": "ran the generator until {ends}",
    "worth": "Taken as it happened, in place of the plan."
  },
  {
    "adds": true,
    "appliance": false,
    "block": "panel_out",
    "cuts": false,
    "daily": false,
    "group": "did",
    "hint": "",
    "key": "panel_out",
    "label": "panel out",
    "numbers": [],
    "scale": 1,
    "span": true,
    "text": "panel out until {ends}",
    "worth": "Taken as it happened, in place of the plan."
  },
  {
    "adds": false,
    "appliance": false,
    "block": "panel_out",
    "cuts": true,
    "daily": false,
    "group": "did",
    "hint": "",
    "key": "panel_in",
    "label": "panel away",
    "numbers": [],
    "scale": 1,
    "span": true,
    "text": "panel put away until {ends}",
    "worth": "Taken as it happened, in place of the plan."
  },
  {
    "adds": true,
    "appliance": true,
    "cuts": false,
    "daily": false,
    "group": "did",
    "hint": "",
    "key": "skipped",
    "label": "left off",
    "numbers": [],
    "scale": 1,
    "span": true,
    "text": "{name} off until {ends}",
    "worth": "Taken as it happened, in place of the plan."
  },
  {
    "adds": true,
    "appliance": true,
    "cuts": false,
    "daily": false,
    "group": "did",
    "hint": "",
    "key": "ran",
    "label": "ran besides",
    "numbers": [],
    "scale": 1,
    "span": true,
    "text": "{name} on until {ends}",
    "worth": "Taken as it happened, in place of the plan."
  },
  {
    "adds": true,
    "appliance": false,
    "cuts": false,
    "daily": true,
    "group": "saw",
    "hint": "",
    "key": "sky",
    "label": "the sky",
    "numbers": [],
    "scale": 1,
    "span": false,
    "text": "the sky was {sky}",
    "worth": "Taken as it happened, in place of the plan."
  }
] as const;
