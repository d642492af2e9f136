/** Constants of the ICAO standard atmosphere. Source: ICAO Doc 7488/3 (1993), ISO 2533:1975. */
const G0 = 9.80665;
const R_AIR = 287.05287;
const T0 = 288.15;
const P0 = 101325;
const LAPSE = -0.0065;
const GAMMA = 1.4;

/** Standard gravity, m/s² (ISO 80000-3). */
export const GRAVITY = G0;

/** What a propeller works in. */
export interface Medium {
  /** kg/m³ */
  density: number;
  /** m/s */
  soundSpeed: number;
  /** dynamic viscosity, Pa·s */
  viscosity: number;
  /** Tip speed at which the map of a propeller ends, m/s; left out: a little above the speed of sound. */
  fastest?: number;
}

export interface Air extends Medium {
  /** Pa */
  pressure: number;
  /** K */
  temperature: number;
}

/** Gas constant of water vapour, J/(kg·K). */
const R_VAPOUR = 461.5;

/**
 * Pressure of saturated water vapour over water (Pa) at a temperature in °C, −40 to 60. Source: A. L. Buck, J. Appl.
 * Meteorol. 20 (1981), as corrected 1996.
 */
export const saturation = (temperature: number): number =>
  611.21 * Math.exp((18.678 - temperature / 234.5) * (temperature / (257.14 + temperature)));

/** Relative humidity where nobody says another. */
export const USUAL_HUMIDITY = 0.5;

/**
 * Air at a pressure altitude. Pressure follows the standard atmosphere; temperature is the standard one unless given;
 * dry unless a humidity is given.
 *
 * @param altitude geopotential height, m, −500 to 11 000
 * @param temperature °C; standard when left out
 * @param humidity relative, 0 to 1: ρ = (p − e)/(R·T) + e/(R_v·T) with the vapour's pressure e
 * Viscosity by Sutherland's law as ISO 2533, and speed of sound, as of dry air: humidity moves them by less than 0.5
 * % below 40 °C.
 */
export function air(altitude: number, temperature?: number, humidity = 0): Air {
  const standard = T0 + LAPSE * altitude;
  const pressure = P0 * (standard / T0) ** (-G0 / (LAPSE * R_AIR));
  const t = temperature === undefined ? standard : temperature + 273.15;
  const vapour = Math.min(humidity * saturation(t - 273.15), pressure);
  return {
    pressure,
    temperature: t,
    density: (pressure - vapour) / (R_AIR * t) + vapour / (R_VAPOUR * t),
    soundSpeed: Math.sqrt(GAMMA * R_AIR * t),
    viscosity: (1.458e-6 * t ** 1.5) / (t + 110.4),
  };
}
