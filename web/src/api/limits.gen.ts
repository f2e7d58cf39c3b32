// Generated from openapi.json by limits.mjs; do not edit.
export const LIMITS = {
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
  "Assumptions.ambient_c": {
    "least": -50,
    "most": 60,
    "unit": "C",
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
  "Battery.absorption_v": {
    "least": 12.5,
    "most": 16,
    "unit": "V at 12 V class",
    "whole": false
  },
  "Battery.battery_v": {
    "least": 6,
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
  "Battery.float_v": {
    "least": 12.5,
    "most": 16,
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
  "Block.day": {
    "least": 0,
    "most": 60,
    "unit": "days after the first",
    "whole": true
  },
  "Block.end_day": {
    "least": 0,
    "most": 60,
    "unit": "days after the first",
    "whole": true
  },
  "Box.system_v": {
    "least": 12,
    "most": 24,
    "unit": "V",
    "whole": false
  },
  "Charger.efficiency_percent": {
    "least": 30,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Charger.limit_a": {
    "least": 0.5,
    "most": 300,
    "unit": "A",
    "whole": false
  },
  "Controller.efficiency_percent": {
    "least": 30,
    "most": 100,
    "unit": "%",
    "whole": false
  },
  "Controller.limit_a": {
    "least": 0.5,
    "most": 300,
    "unit": "A",
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
  "Panel.azimuth_deg": {
    "least": 0,
    "most": 360,
    "unit": "degrees from north",
    "whole": false
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
  }
} as const;
